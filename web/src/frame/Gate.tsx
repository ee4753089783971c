import { Button, Input } from 'antd';
import { useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { problemOf, words } from '../api/client';
import { forgetSeen } from '../away/away';
import { madeBy } from '../parts/outbox';
import { keepHand, lastHand } from '../parts/written';
import './gate.css';

/** Lets somebody in by the shop's passphrase, or by a name and one's own. */
export function Gate({ named, onIn }: { named: boolean; onIn: () => void }) {
  const [name, setName] = useState(() => lastHand());
  const [text, setText] = useState('');
  const [says, setSays] = useState('');
  const queries = useQueryClient();

  async function send(event: FormEvent) {
    event.preventDefault();
    try {
      const answer = await fetch('/api/login', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ name: named ? name.trim() : '', passphrase: text }),
      });
      if (!answer.ok) throw problemOf(answer.status, await answer.json());
      await forgetSeen(); // it may have been another's
      if (named) {
        keepHand(name);
        madeBy(name.trim());
      }
      onIn();
      await queries.cancelQueries();
      await queries.invalidateQueries();
    } catch (fault) {
      setSays(words(fault));
    }
  }

  return (
    <div className="gate" role="dialog" aria-modal="true" aria-label="Who is there?">
      <form className="panel" onSubmit={send}>
        <h1>Brackmoor</h1>
        {named && (
          <>
            <label htmlFor="who">Your name</label>
            <Input
              id="who"
              autoFocus
              maxLength={40}
              value={name}
              onChange={e => setName(e.target.value)}
              autoComplete="username"
            />
          </>
        )}
        <label htmlFor="passphrase">{named ? 'Your passphrase' : 'The shop’s passphrase'}</label>
        <Input.Password
          id="passphrase"
          autoFocus={!named}
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
  );
}
