import { Button } from 'antd';
import type { Problem } from '../api/client';

/** What is still on its way to the server, or what it would not take. */
export function Waiting({ count, refused, mend }: { count: number; refused: Problem | null; mend: () => void }) {
  if (count === 0) return null;
  return (
    <p className={refused ? 'problem' : 'caution-line'} role="status">
      {refused ? (
        <>
          {refused.message} {refused.fields.map(f => f.message).join(' ')}{' '}
          <Button size="small" onClick={mend}>
            Mend it
          </Button>
        </>
      ) : (
        <>{count} not sent yet: kept in this browser, and sent as soon as the server can be reached.</>
      )}
    </p>
  );
}
