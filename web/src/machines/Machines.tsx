import { Button, Dropdown, Input } from 'antd';
import { MoreOutlined } from '@ant-design/icons';
import { useState, type FormEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { words, type Schemas } from '../api/client';
import { addMachine, copyMachine, deleteMachine, restoreMachine, useChange, useShop } from '../api/hooks';
import { WithShop } from '../frame/WithShop';
import { Sign } from '../parts/Verdicts';
import { useNotes } from '../parts/notes';
import './machines.css';

/** The shop's machines, each as its small plate with its state and worst verdict. */
export function Machines() {
  return <WithShop>{shop => <OfShop shop={shop} />}</WithShop>;
}

function OfShop({ shop }: { shop: string }) {
  const page = useShop(shop);
  if (page.isPending) return <p className="soft">Reading the shop…</p>;
  if (page.isError)
    return (
      <p className="problem" role="alert">
        {words(page.error)}
      </p>
    );
  const machines = page.data?.machines ?? [];
  return (
    <>
      <header className="page-head">
        <h1>Machines</h1>
        <AddMachine shop={shop} />
      </header>
      {machines.length === 0 && (
        <p className="soft">
          No machine yet. Name one above, then type its plate: output, volts and rpm are enough for a first answer.
        </p>
      )}
      <ul className="tiles">
        {machines.map(m => (
          <Tile key={m.id} machine={m} />
        ))}
      </ul>
    </>
  );
}

function AddMachine({ shop }: { shop: string }) {
  const [name, setName] = useState('');
  const [fault, setFault] = useState('');
  const add = useChange((value: string) => addMachine(shop, value));
  const navigate = useNavigate();
  async function send(event: FormEvent) {
    event.preventDefault();
    try {
      const machine = await add.mutateAsync(name);
      navigate(`/machines/${machine.id}/plate`);
    } catch (e) {
      setFault(words(e));
    }
  }
  return (
    <form className="add-machine" onSubmit={send}>
      <label htmlFor="machine-name" className="visually-hidden">
        Name of a new machine
      </label>
      <Input
        id="machine-name"
        placeholder="Name of a new machine"
        value={name}
        maxLength={80}
        status={fault ? 'error' : undefined}
        onChange={e => {
          setName(e.target.value);
          setFault('');
        }}
      />
      <Button type="primary" htmlType="submit" loading={add.isPending}>
        Add machine
      </Button>
      {fault && (
        <span className="problem" role="alert">
          {fault}
        </span>
      )}
    </form>
  );
}

function Tile({ machine }: { machine: Schemas['MachineCard'] }) {
  const notes = useNotes();
  const copy = useChange((m: Schemas['MachineCard']) => copyMachine(m.id, `${m.name} copy`.slice(0, 80)));
  const remove = useChange(deleteMachine);
  const back = useChange(restoreMachine);
  const failed = (fault: unknown) =>
    notes.error({ title: 'That was not done', description: words(fault), duration: 0 });
  const take = () =>
    remove.mutateAsync(machine.id).then(() => {
      notes.info({
        key: machine.id,
        title: `${machine.name} is deleted`,
        duration: 20,
        actions: (
          <Button onClick={() => back.mutateAsync(machine.id).then(() => notes.destroy(machine.id), failed)}>
            Undo
          </Button>
        ),
      });
    }, failed);
  return (
    <li className="tile">
      <header>
        <Link to={`/machines/${machine.id}/${machine.motors[0]?.step ?? 'plate'}`} className="tile-name">
          {machine.name}
        </Link>
        <Dropdown
          trigger={['click']}
          menu={{
            items: [
              { key: 'copy', label: 'Duplicate', onClick: () => void copy.mutateAsync(machine).catch(failed) },
              { key: 'delete', label: 'Delete', danger: true, onClick: () => void take() },
            ],
          }}
        >
          <Button type="text" icon={<MoreOutlined />} aria-label={`More for ${machine.name}`} />
        </Dropdown>
      </header>
      {machine.motors.map(m => (
        <Link key={m.id} className="small-plate" to={`/machines/${machine.id}/${m.step}?motor=${m.id}`}>
          <dl>
            <div>
              <dt>{m.name || 'output'}</dt>
              <dd>{m.title || '–'}</dd>
            </div>
            <div>
              <dt>volts</dt>
              <dd>{m.volts || '–'}</dd>
            </div>
            <div>
              <dt>amps</dt>
              <dd>{m.amps || '–'}</dd>
            </div>
            <div>
              <dt>rpm</dt>
              <dd>{m.rpm || '–'}</dd>
            </div>
          </dl>
          <span className="state">
            <span className="answer figures">
              {m.fed}
              {m.fed && m.answer && '; alone: '}
              {m.answer}
            </span>
            <span className="stage">
              {m.stage}
              {m.assumed > 0 && `, ${m.assumed} assumed`}
            </span>
          </span>
          {m.says && (
            <span className={`worst ${m.worst}`}>
              {m.worst && <Sign severity={m.worst} size={16} />} {m.says}
            </span>
          )}
        </Link>
      ))}
      {machine.note && <p className="note">{machine.note}</p>}
    </li>
  );
}
