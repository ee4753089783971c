import { Button, Input, Modal } from 'antd';
import { useState } from 'react';
import { ask, client, words, type Plate, type Schemas } from '../api/client';
import { Sign } from '../parts/Verdicts';

/** Reads a plate from pasted text: what came from which words, and what was not understood. */
export function PlateText({ onRead, onClose }: { onRead: (fields: Partial<Plate>) => void; onClose: () => void }) {
  const [text, setText] = useState('');
  const [read, setRead] = useState<Schemas['PlateText'] | null>(null);
  const [fault, setFault] = useState('');
  const change = (value: string) => {
    setText(value);
    setRead(null);
    setFault('');
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
    onRead(Object.fromEntries(Object.entries(read.plate).filter(([, value]) => value !== '')));
    onClose();
  };
  // A single-phase plate has no place on a three-phase card.
  const usable =
    read && Object.keys(read.from).length > 0 && !read.verdicts.some(v => v.rule === 'plate.not-three-phase');
  return (
    <Modal
      open
      title="Read the plate from text"
      onCancel={onClose}
      footer={null}
      width={640}
      afterOpenChange={open => open && document.getElementById('plate-text')?.focus()}
    >
      <label htmlFor="plate-text">One line or a column, as it stands on the plate</label>
      <Input.TextArea
        id="plate-text"
        rows={4}
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
          <table className="facts">
            <thead>
              <tr>
                <th scope="col">Field</th>
                <th scope="col">From the words</th>
              </tr>
            </thead>
            <tbody>
              {Object.entries(read.from).map(([field, from]) => (
                <tr key={field}>
                  <th scope="row">{field.replaceAll('_', ' ')}</th>
                  <td className="figures">{from}</td>
                </tr>
              ))}
            </tbody>
          </table>
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
