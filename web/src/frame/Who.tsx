import { UserOutlined } from '@ant-design/icons';
import { useQueryClient } from '@tanstack/react-query';
import { Button, Modal } from 'antd';
import { useEffect, useState } from 'react';
import { ask, client, words, type Schemas } from '../api/client';
import { at, useMe } from '../api/hooks';
import { keys } from '../api/keys';
import { forgetSeen } from '../away/away';
import { keepHand } from '../parts/written';

/** Who is signed in by name, what they may do, and where else; nothing where nobody is known by name. */
export function Who() {
  const me = useMe().data;
  const [open, setOpen] = useState(false);
  const name = me?.name;
  useEffect(() => {
    if (name) keepHand(name);
  }, [name]);
  if (!me || !name) return null;
  return (
    <>
      <Button
        type="text"
        className="who"
        icon={<UserOutlined aria-hidden="true" />}
        aria-label={`Signed in: ${name}`}
        onClick={() => setOpen(true)}
      >
        <span className="who-name">{name}</span>
      </Button>
      <Modal open={open} onCancel={() => setOpen(false)} title={name} footer={null} destroyOnHidden>
        <SignedIn me={me} />
      </Modal>
    </>
  );
}

/** The machine that a browser says it runs on: what stands in its first brackets. */
const device = (agent: string) => /\(([^)]*)\)/.exec(agent)?.[1] ?? agent;

function SignedIn({ me }: { me: Schemas['Me'] }) {
  const queries = useQueryClient();
  const [fault, setFault] = useState('');
  const end = async (id: string) => {
    try {
      await ask(client.DELETE('/me/sign-ins/{id}', at(id)));
      await queries.invalidateQueries({ queryKey: keys.me });
      setFault('');
    } catch (e) {
      setFault(words(e));
    }
  };
  const leave = async () => {
    try {
      await fetch('/api/logout', { method: 'POST' });
      await forgetSeen();
      queries.clear();
      await ask(client.GET('/me')); // it asks who comes next
    } catch (e) {
      setFault(words(e));
    }
  };
  return (
    <div className="signed-in">
      <p>Whoever is of this role {me.role.title}. What is done here is written down under this name.</p>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      <h2>Signed in</h2>
      <ul>
        {me.sign_ins.map(s => (
          <li key={s.id}>
            <span>
              <time className="figures">{new Date(s.at).toLocaleString()}</time> from{' '}
              <b className="figures">{s.address}</b>
              <span className="soft small"> {device(s.agent)}</span>
            </span>
            {s.id === me.sign_in ? (
              <span className="soft here">here</span>
            ) : (
              <Button onClick={() => void end(s.id)}>End it</Button>
            )}
          </li>
        ))}
      </ul>
      <Button type="primary" onClick={() => void leave()}>
        Sign out here
      </Button>
    </div>
  );
}
