import { Button, Checkbox, Input, Modal } from 'antd';
import { useState } from 'react';
import { ask, client, words, type Plate, type Schemas } from '../api/client';
import { useChoices } from '../api/hooks';
import { Sign } from '../parts/Verdicts';
import { fieldName } from './plateFields';

/** Reads a plate from pasted text: what came from which words, what may be a slip, and what was not understood. */
export function PlateText({ onRead, onClose }: { onRead: (fields: Partial<Plate>) => void; onClose: () => void }) {
  const [text, setText] = useState('');
  const [read, setRead] = useState<Schemas['PlateText'] | null>(null);
  const [fault, setFault] = useState('');
  const [confirmed, setConfirmed] = useState<Record<string, string>>({});
  const rest = useChoices().data?.rest ?? [];
  const called = (field: string) => fieldName(field, rest);
  const change = (value: string) => {
    setText(value);
    setRead(null);
    setFault('');
    setConfirmed({});
  };
  const look = async () => {
    try {
      setRead(await ask(client.POST('/plates', { body: { text } })));
    } catch (e) {
      setFault(words(e));
    }
  };
  const put = () => {
    if (!read) return;
    onRead(
      Object.fromEntries(
        [...Object.entries(read.plate), ...Object.entries(confirmed)].filter(([, value]) => value !== ''),
      ),
    );
    onClose();
  };
  // A single-phase plate has no place on a three-phase card.
  const usable =
    read &&
    (read.rows.length > 0 || Object.values(confirmed).some(Boolean)) &&
    !read.verdicts.some(v => v.rule === 'plate.not-three-phase');
  return (
    <Modal
      open
      title="Read the plate from text"
      onCancel={onClose}
      footer={null}
      width={640}
      afterOpenChange={open => open && document.getElementById('plate-text')?.focus()}
    >
      <label htmlFor="plate-text">As it stands on the plate: a line, a column or a table</label>
      <Input.TextArea
        id="plate-text"
        className="plate-text"
        rows={6}
        value={text}
        maxLength={4000}
        onChange={e => change(e.target.value)}
        spellCheck={false}
        placeholder="3 HP  230/460 V  9.0/4.5 A  60 Hz  1745 RPM  SF 1.15"
      />
      <div className="text-tools">
        <Button onClick={() => void look()}>Read it</Button>
        {usable && (
          <Button type="primary" onClick={put}>
            Put it on the plate
          </Button>
        )}
      </div>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      {read && (
        <>
          {read.rows.length > 0 && (
            <table className="facts">
              <thead>
                <tr>
                  <th scope="col">Field</th>
                  <th scope="col">Goes on the plate</th>
                  <th scope="col">From the words</th>
                </tr>
              </thead>
              <tbody>
                {read.rows.map(({ field, text: typed, words: from }) => (
                  <tr key={field}>
                    <th scope="row">{called(field)}</th>
                    <td className="figures">{confirmed[field] || typed}</td>
                    <td className="figures">{from}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {read.deduced.map(d => (
            <p key={d.field} className="soft">
              {called(d.field)}: {d.because}.
            </p>
          ))}
          {read.proposals.length > 0 && (
            <section className="slips" aria-label="Perhaps a slip">
              <p>
                <b>Perhaps a slip.</b> Look at the plate; what you confirm goes on it.
              </p>
              {read.proposals.map(p => (
                <Checkbox
                  key={p.field + p.to}
                  checked={confirmed[p.field] === p.to}
                  onChange={e => setConfirmed(was => ({ ...was, [p.field]: e.target.checked ? p.to : '' }))}
                >
                  {called(p.field)} <span className="figures">{p.to}</span>, where “{p.from}” stands: {p.because}
                </Checkbox>
              ))}
            </section>
          )}
          {read.unread.length > 0 && (
            <p>
              <b>Not understood:</b> {read.unread.join(' · ')}
            </p>
          )}
          {read.verdicts.map(v => (
            <p key={v.rule} className="read-verdict">
              <Sign severity={v.severity} size={16} /> {v.says} {v.do}
            </p>
          ))}
        </>
      )}
    </Modal>
  );
}
