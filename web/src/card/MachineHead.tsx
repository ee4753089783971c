import { EditOutlined, HistoryOutlined } from '@ant-design/icons';
import { useQueryClient } from '@tanstack/react-query';
import { Button, Drawer, Input, Modal } from 'antd';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { words, type Machine } from '../api/client';
import { addMotor, changeMachine, deleteMotor, restoreMotor, useChange } from '../api/hooks';
import { keys } from '../api/keys';
import { OpenItems } from '../daybook/OpenItems';
import { useNotes } from '../parts/notes';

/** The machine's name, its motors, its history, and the steps as children. */
export function MachineHead({ page, motor, children }: { page: Machine; motor: string; children?: ReactNode }) {
  const [editing, setEditing] = useState(false);
  const [past, setPast] = useState(false);
  const learned = page.motors.find(m => m.id === motor)?.reading.learned;
  const navigate = useNavigate();
  const queries = useQueryClient();
  const open = (id: string) => navigate(`/machines/${page.id}/size?motor=${id}`);
  return (
    <header className="card-head">
      <h1>{page.name}</h1>
      <Button type="text" icon={<EditOutlined />} aria-label="Name, note and motors" onClick={() => setEditing(true)} />
      <Button
        type="text"
        icon={<HistoryOutlined />}
        aria-label="History"
        onClick={() => {
          setPast(true);
          void queries.invalidateQueries({ queryKey: keys.machine(page.id) });
        }}
      />
      {page.motors.length > 1 && (
        <span className="motors" role="group" aria-label="Motors">
          {page.motors.map((m, i) => (
            <Button
              key={m.id}
              type={m.id === motor ? 'primary' : 'default'}
              aria-pressed={m.id === motor}
              onClick={() => open(m.id)}
            >
              {m.name || m.reading.title || `Motor ${i + 1}`}
            </Button>
          ))}
        </span>
      )}
      {learned && (
        <span className="learned-mark" title={`Its circuit and its supply are ${learned}`}>
          learned
        </span>
      )}
      <OpenItems shop={page.shop.id} machine={page.id} />
      <span className="gap" />
      {children}
      {editing && (
        <MachineDialog
          page={page}
          onClose={() => setEditing(false)}
          onMotor={id => {
            setEditing(false);
            open(id);
          }}
        />
      )}
      <Drawer open={past} onClose={() => setPast(false)} title="History" size={420}>
        <ol className="history">
          {page.history.map(e => (
            <li key={e.id}>
              <time className="figures">{new Date(e.at).toLocaleString()}</time> {e.what}
              {e.who && <span className="soft"> · {e.who}</span>}
            </li>
          ))}
        </ol>
        {page.history.length === 0 && <p className="soft">Nothing was changed yet.</p>}
      </Drawer>
    </header>
  );
}

function MachineDialog({
  page,
  onClose,
  onMotor,
}: {
  page: Machine;
  onClose: () => void;
  onMotor: (id: string) => void;
}) {
  const [name, setName] = useState(page.name);
  const [note, setNote] = useState(page.note);
  const [fault, setFault] = useState('');
  const notes = useNotes();
  const save = useChange(() => changeMachine(page.id, { name, note, version: page.version }));
  const add = useChange((value: string) => addMotor(page.id, value));
  const back = useChange(restoreMotor);
  const remove = useChange(deleteMotor);
  const failed = (e: unknown) => setFault(words(e));
  const take = (id: string, title: string) =>
    remove.mutateAsync(id).then(() => {
      notes.info({
        key: id,
        title: `${title} is taken off`,
        duration: 20,
        actions: <Button onClick={() => back.mutateAsync(id).then(() => notes.destroy(id), failed)}>Undo</Button>,
      });
    }, failed);
  return (
    <Modal
      open
      title="Name, note and motors"
      onCancel={onClose}
      okText="Save"
      onOk={() => save.mutateAsync(undefined as void).then(onClose, failed)}
      confirmLoading={save.isPending}
    >
      <label htmlFor="edit-name">Name</label>
      <Input id="edit-name" value={name} maxLength={80} onChange={e => setName(e.target.value)} />
      <label htmlFor="edit-note">Note</label>
      <Input.TextArea id="edit-note" value={note} maxLength={2000} rows={3} onChange={e => setNote(e.target.value)} />
      <p className="soft" style={{ marginTop: 12 }}>
        Motors on this machine
      </p>
      <ul className="motor-list">
        {page.motors.map((m, i) => {
          const title = m.name || m.reading.title || `Motor ${i + 1}`;
          return (
            <li key={m.id}>
              {title} {page.motors.length > 1 && <Button onClick={() => void take(m.id, title)}>Take off</Button>}
            </li>
          );
        })}
      </ul>
      <Button onClick={() => add.mutateAsync(`Motor ${page.motors.length + 1}`).then(m => onMotor(m.id), failed)}>
        Add a motor
      </Button>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
    </Modal>
  );
}
