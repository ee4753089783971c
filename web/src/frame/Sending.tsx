import { Button, Drawer } from 'antd';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { readSome, useMe } from '../api/hooks';
import { madeBy, maker, sendAll, takeBack, useOutbox, type Item } from '../parts/outbox';
import { useAway } from '../away/away';

/** How long until a server that is away is tried again, and until what waits is shown: most of it is gone by then. */
const againMs = 3000;
const lateMs = 1200;

/** What one is, for whoever looks through what waits. */
const named = (item: Item) => {
  const body = item.body as { says?: string; state?: string; name?: string };
  return body.says || (item.kind === 'readings' ? `A reading: ${body.state ?? ''}` : `A lesson: ${body.name ?? ''}`);
};

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
  const { list, refused } = useOutbox();
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
      <Drawer open={open && waits} onClose={() => setOpen(false)} title="To send" size={420}>
        <p className="soft">
          Kept in this browser, and sent in this order once the server can be reached; what is sent twice is written
          once.
        </p>
        <ol className="to-send-list">
          {list.map((item, i) => {
            const why = list.findIndex(x => x.place === item.place) === i ? refused[item.place] : undefined;
            return (
              <li key={item.id}>
                <time className="figures">{new Date(item.made).toLocaleString()}</time> {named(item)}
                {item.who !== '' && item.who !== who && <span className="soft"> · waits for {item.who}</span>}
                {why && (
                  <p className="problem">
                    {why.message} {why.fields.map(f => f.message).join(' ')}{' '}
                    <Button size="small" onClick={() => void takeBack(item.place)}>
                      Let it go
                    </Button>
                  </p>
                )}
              </li>
            );
          })}
        </ol>
      </Drawer>
    </>
  );
}
