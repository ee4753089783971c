import { DownOutlined } from '@ant-design/icons';
import { useQueryClient } from '@tanstack/react-query';
import { Button, Dropdown } from 'antd';
import { lazy, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { Later } from '../parts/Later';
import { words, type Schemas, type Supply } from '../api/client';
import { addShop, changeShop, copyShop, deleteShop, restoreShop, useChange } from '../api/hooks';
import { useNotes } from '../parts/notes';
import { chooseShop, useCurrentShop } from './shop';

const ImportDialog = lazy(() => import('./ImportDialog').then(m => ({ default: m.ImportDialog })));
const ShopDialog = lazy(() => import('./ShopDialog').then(m => ({ default: m.ShopDialog })));

/** The shop's name and supply, and what can be done with shops. */
export function ShopMenu() {
  const { shops, current } = useCurrentShop();
  const [dialog, setDialog] = useState<'new' | 'change' | ''>('');
  const picker = useRef<HTMLInputElement>(null);
  const notes = useNotes();
  const navigate = useNavigate();
  const home = /^\/(machines)?$/.test(useLocation().pathname); // the places that show whichever shop is chosen
  const queries = useQueryClient();
  const failed = (fault: unknown) =>
    notes.error({ title: 'That was not done', description: words(fault), duration: 0 });

  const go = (id: string) => {
    chooseShop(id);
    if (!home) navigate('/');
  };
  const save = useChange(({ name, supply }: { name: string; supply: Supply }) =>
    dialog === 'new' || !current
      ? addShop({ name, supply, version: 0 })
      : changeShop(current.id, { name, supply, version: current.version }),
  );
  const copy = useChange((shop: Schemas['ShopHead']) => copyShop(shop.id, `${shop.name} copy`.slice(0, 80)));
  const back = useChange(restoreShop);
  const remove = useChange(deleteShop);
  const [file, setFile] = useState<File | null>(null);

  const deleteCurrent = async () => {
    if (!current) return;
    const { id, name } = current;
    try {
      await remove.mutateAsync(id);
      if (!home) navigate('/');
      notes.info({
        key: id,
        title: `${name} is deleted`,
        duration: 20,
        actions: (
          <Button
            onClick={() =>
              back.mutateAsync(id).then(() => {
                go(id);
                notes.destroy(id);
              }, failed)
            }
          >
            Undo
          </Button>
        ),
      });
    } catch (fault) {
      failed(fault);
    }
  };
  const items = [
    ...(shops.data ?? []).map(s => ({ key: `shop:${s.id}`, label: s.name, onClick: () => go(s.id) })),
    { type: 'divider' as const },
    { key: 'new', label: 'New shop…', onClick: () => setDialog('new') },
    ...(current
      ? [
          { key: 'change', label: 'Name and supply…', onClick: () => setDialog('change') },
          { key: 'copy', label: 'Duplicate', onClick: () => copy.mutateAsync(current).then(s => go(s.id), failed) },
          { key: 'delete', label: 'Delete', danger: true, onClick: deleteCurrent },
          { type: 'divider' as const },
          {
            key: 'export',
            label: 'Export this shop (JSON)',
            onClick: () => window.location.assign(`/api/export?shop=${encodeURIComponent(current.id)}`),
          },
        ]
      : []),
    ...(current
      ? [
          {
            key: 'tables',
            label: 'Export as tables (CSV)',
            children: ['machine', 'circuit', 'load', 'part'].map(table => ({
              key: `csv:${table}`,
              label: `${table}s`,
              onClick: () => window.location.assign(`/api/shops/${current.id}/tables/${table}`),
            })),
          },
        ]
      : []),
    { key: 'import', label: 'Import shops (JSON) or a table (CSV)…', onClick: () => picker.current?.click() },
  ];

  return (
    <>
      <Dropdown menu={{ items, selectedKeys: current ? [`shop:${current.id}`] : [] }} trigger={['click']}>
        <Button type="text" className="shopname">
          <span>{current?.name ?? (shops.isSuccess ? 'No shop yet' : 'Shops')}</span>{' '}
          <DownOutlined aria-hidden="true" />
        </Button>
      </Dropdown>
      {current && (
        <button type="button" className="supply" onClick={() => setDialog('change')} title="Change the supply">
          {current.supply.volts} V · {current.supply.hertz} Hz · {current.supply.main_amps} A
        </button>
      )}
      <input
        ref={picker}
        type="file"
        accept="application/json,.json,text/csv,.csv"
        hidden
        aria-label="Shops file"
        onChange={e => {
          setFile(e.target.files?.[0] ?? null);
          e.target.value = '';
        }}
      />
      <Later>
        {file && (
          <ImportDialog
            file={file}
            shop={current?.id ?? ''}
            onClose={() => setFile(null)}
            onDone={r => {
              setFile(null);
              void queries.invalidateQueries();
              notes.success({
                title: `${r.added} added, ${r.changed} changed, ${r.unchanged} as they were, ${r.kept} kept`,
                description: r.lines.slice(0, 12).map(l => <div key={l}>{l}</div>),
                duration: 12,
              });
            }}
          />
        )}
        {dialog && (
          <ShopDialog
            shop={dialog === 'change' ? current : undefined}
            onClose={() => setDialog('')}
            onSave={async value => {
              const saved = await save.mutateAsync(value);
              setDialog('');
              if (dialog === 'new') go(saved.id);
            }}
          />
        )}
      </Later>
    </>
  );
}
