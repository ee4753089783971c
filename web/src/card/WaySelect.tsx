import { Button, Select } from 'antd';
import { memo } from 'react';
import { useChoices } from '../api/hooks';
import type { Draft, Set } from './parts';
import { keep, take, useTaken } from './way';

/** Which route the Size step shows: the one taken, one kept beside it, or any other to look at. */
export const WaySelect = memo(function WaySelect({
  draft,
  seen,
  look,
  set,
}: {
  draft: Draft;
  seen: string;
  look: (way: string) => void;
  set: Set;
}) {
  const routes = useChoices().data?.routes ?? [];
  const { way } = draft;
  const taken = useTaken(way);
  const mark = (name: string) => (name === way.route ? ' · taken' : way.kept.includes(name) ? ' · kept' : '');
  const order = (name: string) => (name === taken ? 0 : way.kept.includes(name) ? 1 : 2);
  const options = [...routes]
    .sort((a, b) => order(a.name) - order(b.name))
    .map(r => ({ value: r.name, label: r.title + mark(r.name) }));
  const kept = way.kept.includes(seen);
  return (
    <div className="way-select">
      <Select
        aria-label="Route shown"
        value={seen}
        options={options}
        onChange={look}
        popupMatchSelectWidth={false}
        listHeight={420}
      />
      {way.route !== seen && (
        <Button type="primary" onClick={() => set('way.route', { way: take(way, seen) })}>
          Take it
        </Button>
      )}
      {way.route !== seen && <span className="soft">not taken: it would be</span>}
      {way.route !== '' && way.route !== seen && (
        <Button onClick={() => set('way.kept', { way: keep(way, seen, !kept) })}>
          {kept ? 'Keep it no more' : 'Keep beside'}
        </Button>
      )}
    </div>
  );
});
