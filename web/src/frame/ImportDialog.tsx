import { useMutation, useQuery } from '@tanstack/react-query';
import { Button, Checkbox, Modal } from 'antd';
import { useState } from 'react';
import { problemOf, words } from '../api/client';
import './import.css';

type Row = { id: string; what: string; title: string; status: string; says: string; taken: boolean };
export type Report = {
  added: number;
  changed: number;
  unchanged: number;
  kept: number;
  lines: string[];
  rows: Row[];
};

/** What a table of one shop would do, as rows that are taken all or none. */
async function sendTable(shop: string, file: File, preview: boolean): Promise<Report> {
  const answer = await fetch(`/api/shops/${shop}/tables?preview=${preview}`, {
    method: 'POST',
    headers: { 'Content-Type': 'text/csv' },
    body: file,
  });
  const body = await answer.json();
  if (!answer.ok) throw problemOf(answer.status, body);
  const lines = (body as { lines: { line: number; title: string; status: string }[] }).lines;
  const of = (status: string) => lines.filter(l => l.status === status).length;
  return {
    added: of('new'),
    changed: of('changed'),
    unchanged: of('same'),
    kept: 0,
    lines: lines.filter(l => l.status !== 'same').map(l => `${l.title}: ${l.status}`),
    rows: lines.map(l => ({
      id: String(l.line),
      what: 'machine',
      title: l.title,
      status: l.status,
      says: `line ${l.line}, ${l.status}`,
      taken: true,
    })),
  };
}

/** Sends a file of shops, with what is chosen of its rows. */
async function send(file: File, query: [string, string][]): Promise<Report> {
  const answer = await fetch(`/api/import?${new URLSearchParams(query)}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: file,
  });
  const body = await answer.json();
  if (!answer.ok) throw problemOf(answer.status, body);
  return body as Report;
}

/** What a file of shops would bring, row by row, before any of it is taken. */
export function ImportDialog({
  file,
  shop,
  onClose,
  onDone,
}: {
  file: File;
  /** The shop that a table is taken into. */
  shop: string;
  onClose: () => void;
  onDone: (report: Report) => void;
}) {
  const table = file.name.toLowerCase().endsWith('.csv');
  const looked = useQuery({
    queryKey: ['import', file.name, file.lastModified, file.size],
    queryFn: () => (table ? sendTable(shop, file, true) : send(file, [['preview', 'true']])),
    staleTime: 0,
    gcTime: 0,
    retry: false,
  });
  const [turned, setTurned] = useState<Record<string, boolean>>({});
  const take = useMutation({
    mutationFn: () =>
      table
        ? sendTable(shop, file, false)
        : send(
            file,
            Object.entries(turned).map(([id, on]) => [on ? 'take' : 'keep', id]),
          ),
    onSuccess: onDone,
  });
  const rows = looked.data?.rows.filter(r => r.status !== 'same') ?? [];
  const fault = looked.error ?? take.error;
  const fields = (fault as { fields?: { location: string; message: string }[] } | null)?.fields ?? [];
  return (
    <Modal
      open
      title={`Import ${file.name}`}
      onCancel={onClose}
      footer={
        <>
          <Button onClick={onClose}>{rows.length > 0 ? 'Cancel' : 'Close'}</Button>
          {rows.length > 0 && (
            <Button type="primary" loading={take.isPending} onClick={() => take.mutate()}>
              {table ? 'Import all of it' : 'Import what is ticked'}
            </Button>
          )}
        </>
      }
    >
      {looked.isPending && <p className="soft">Looking through it…</p>}
      {fault && (
        <div className="problem" role="alert">
          <p>{words(fault)}</p>
          {fields.slice(0, 8).map(f => (
            <p key={f.location + f.message}>
              {f.location}: {f.message}
            </p>
          ))}
          {fields.length > 8 && <p>And {fields.length - 8} more.</p>}
        </div>
      )}
      {looked.data && rows.length === 0 && <p>Everything in it is here already, as it is.</p>}
      {rows.length > 0 && (
        <ul className="import-rows">
          {rows.map(r => (
            <li key={r.id} className={`import-${r.what}`}>
              <Checkbox
                checked={turned[r.id] ?? r.taken}
                disabled={table}
                onChange={e => setTurned({ ...turned, [r.id]: e.target.checked })}
              >
                {r.title}
              </Checkbox>
              <span className="soft">{r.says}</span>
            </li>
          ))}
        </ul>
      )}
      {looked.data && looked.data.unchanged > 0 && rows.length > 0 && (
        <p className="soft">{looked.data.unchanged} more are here as they are.</p>
      )}
    </Modal>
  );
}
