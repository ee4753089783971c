import { Button, Input } from 'antd';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState, type FormEvent, type ReactNode } from 'react';
import { problemOf, words } from '../api/client';

/** Asks for the shop's passphrase whenever the server wants it. */
export function Passphrase({ children }: { children: ReactNode }) {
  const [wanted, setWanted] = useState(false);
  const [text, setText] = useState('');
  const [says, setSays] = useState('');
  const queries = useQueryClient();
  useEffect(() => {
    const ask = () => setWanted(true);
    window.addEventListener('brackmoor:passphrase', ask);
    return () => window.removeEventListener('brackmoor:passphrase', ask);
  }, []);

  async function send(event: FormEvent) {
    event.preventDefault();
    try {
      const answer = await fetch('/api/login', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ passphrase: text }),
      });
      if (!answer.ok) throw problemOf(answer.status, await answer.json());
      setWanted(false);
      setText('');
      setSays('');
      await queries.cancelQueries();
      await queries.invalidateQueries();
    } catch (fault) {
      setSays(words(fault));
    }
  }

  return (
    <>
      {children}
      {wanted && (
        <div className="gate">
          <form className="panel" onSubmit={send}>
            <h1>Brackmoor</h1>
            <label htmlFor="passphrase">The shop’s passphrase</label>
            <Input.Password
              id="passphrase"
              autoFocus
              value={text}
              onChange={e => setText(e.target.value)}
              status={says ? 'error' : undefined}
              autoComplete="current-password"
            />
            {says && (
              <p className="problem" role="alert">
                {says}
              </p>
            )}
            <Button type="primary" htmlType="submit">
              Open
            </Button>
          </form>
        </div>
      )}
    </>
  );
}
