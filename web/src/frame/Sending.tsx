import { Button } from 'antd';
import { useQueryClient } from '@tanstack/react-query';
import { lazy, useEffect, useState } from 'react';
import { Later } from '../parts/Later';
import { readSome, useMe } from '../api/hooks';
import { keys } from '../api/keys';
import { madeBy, maker, sendAll, useOutbox } from '../parts/outbox';
import { useAway } from '../away/away';

const ToSend = lazy(() => import('./ToSend').then(m => ({ default: m.ToSend })));

/** How long until a server that is away is tried again, and until what waits is shown: most of it is gone by then. */
const againMs = 3000;
const lateMs = 1200;

/** Says that what is shown is what was seen last. */
export function Away() {
  const since = useAway();
  if (since === 0) return null;
  return (
    <p className="away" role="status">
      No server: as seen {new Date(since).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' })}. What was not
      asked for before waits for it.
    </p>
  );
}

/** Sends what was made away from the server as soon as it is back, and shows what still waits. */
export function Sending() {
  const queries = useQueryClient();
  const me = useMe().data;
  const outbox = useOutbox();
  const { list } = outbox;
  const [open, setOpen] = useState(false);
  const [late, setLate] = useState(false);
  const who = me ? me.name : maker();
  const waits = list.length > 0;
  useEffect(() => madeBy(who), [who]);
  useEffect(() => {
    if (!waits) return setLate(false);
    const timer = setTimeout(() => setLate(true), lateMs);
    return () => clearTimeout(timer);
  }, [waits]);
  useEffect(() => {
    if (!waits) return;
    const send = () =>
      void sendAll(who, (item, answer) => {
        if (item.kind === 'readings') queries.setQueriesData({ queryKey: ['prove', item.of] }, answer);
        if (item.kind === 'photos') void queries.invalidateQueries({ queryKey: keys.photos(item.of) });
        if (item.kind !== 'practice') readSome(queries, 'first-run', 'daybook', 'acceptance', 'sheet', 'settings');
      });
    send();
    const timer = setInterval(send, againMs);
    return () => clearInterval(timer);
  }, [list, waits, who, queries]);
  return (
    <>
      {waits && late && (
        <Button className="to-send" onClick={() => setOpen(true)}>
          {list.length} to send
        </Button>
      )}
      {open && waits && (
        <Later>
          <ToSend outbox={outbox} who={who} onClose={() => setOpen(false)} />
        </Later>
      )}
    </>
  );
}
