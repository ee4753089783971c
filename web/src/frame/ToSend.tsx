import { Button, Drawer } from 'antd';
import { takeBack, type Item, type Outbox } from '../parts/outbox';

/** What one is, for whoever looks through what waits. */
const named = (item: Item) => {
  const body = item.body as { says?: string; state?: string; name?: string };
  if (item.kind === 'photos') return `A photo: ${body.name ?? ''}`;
  return body.says || (item.kind === 'readings' ? `A reading: ${body.state ?? ''}` : `A lesson: ${body.name ?? ''}`);
};

/** What waits to be sent, in its order, and why the server would not take what it was given. */
export function ToSend({ outbox, who, onClose }: { outbox: Outbox; who: string; onClose: () => void }) {
  const { list, refused } = outbox;
  return (
    <Drawer open onClose={onClose} title="To send" size={420}>
      <p className="soft">
        Kept in this browser, and sent in this order once the server can be reached; what is sent twice is written once.
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
  );
}
