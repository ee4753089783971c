import { Button, Checkbox, Input, Select } from 'antd';
import { useDeferredValue, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { words, type Schemas } from '../api/client';
import { useDaybook, useShop, type Sought } from '../api/hooks';
import { WithShop } from '../frame/WithShop';
import { photoAt } from '../api/photos';
import { useKept } from '../parts/kept';
import { Picture } from '../parts/Picture';
import { dayOf, keepHand, lastHand, moment } from '../parts/written';
import { usePending } from '../parts/outbox';
import { Waiting } from '../parts/Waiting';
import './daybook.css';
import { newId } from '../parts/id';

type Line = Schemas['StoreLine'];
type Entry = Schemas['DaybookEntry'];

/** What people wrote down: read, broken, cured, changed, open and due. Nothing of it is ever changed. */
export function Daybook() {
  return <WithShop>{shop => <Book key={shop} id={shop} />}</WithShop>;
}

function Book({ id }: { id: string }) {
  const shop = useShop(id);
  const [query, setQuery] = useSearchParams();
  const [older, setOlder] = useState<number[]>([]);
  const [looked, look] = useState(query.get('words') ?? ''); // the address follows it
  const sought: Sought = {
    machine: query.get('machine') ?? '',
    kind: query.get('kind') ?? '',
    words: useDeferredValue(looked),
    from: query.get('from') ?? '',
    until: query.get('until') ?? '',
    open: query.get('open') !== null,
    before: older.at(-1) ?? 0,
  };
  const seek = (name: string, value: string) => {
    setOlder([]);
    setQuery(
      q => {
        if (value) q.set(name, value);
        else q.delete(name);
        return q;
      },
      { replace: true },
    );
  };
  const book = useDaybook(id, sought);
  const pending = usePending(`entries.${id}`, 'entries', id);
  const [writing, write] = useState<Partial<Entry> | null>(null);
  if (shop.isError && !shop.data)
    return (
      <p className="problem" role="alert">
        {words(shop.error)}
      </p>
    );
  if (!shop.data || !book.data) return <p className="soft">Opening the daybook…</p>;
  const machines = shop.data.machines;
  const { lines, kinds, more, upkeep } = book.data;
  const filter = Object.fromEntries(
    Object.entries(sought)
      .filter(([name, value]) => name !== 'before' && value)
      .map(([name, value]) => [name, String(value)]),
  );
  return (
    <div className="daybook">
      <div className="page-head">
        <h1>Daybook</h1>
        <span className="soft lead">what was written down stays; a correction is a line of its own</span>
        <span className="gap" />
        <a className="alone" href={`/api/shops/${id}/daybook.csv?${new URLSearchParams(filter)}`}>
          CSV
        </a>
        <Link className="alone" to={`/daybook/print?${new URLSearchParams(filter)}`}>
          Print
        </Link>
        <Button type="primary" onClick={() => write({})}>
          Write a line
        </Button>
      </div>
      <Waiting count={pending.waiting.length} refused={pending.refused} mend={() => write(pending.back() ?? null)} />
      {writing && (
        <Writing
          key={writing.id ?? writing.corrects ?? writing.ends ?? ''}
          shop={id}
          from={writing}
          kinds={kinds}
          upkeep={upkeep}
          machines={machines}
          add={e => {
            pending.add(e);
            write(null);
          }}
          close={() => write(null)}
        />
      )}
      <section className="panel">
        <div className="seek" role="search">
          <Input
            aria-label="Words"
            placeholder="Words"
            allowClear
            value={looked}
            onChange={e => {
              look(e.target.value);
              seek('words', e.target.value);
            }}
          />
          <Select
            aria-label="Machine"
            value={sought.machine}
            options={[{ value: '', label: 'every machine' }, ...machines.map(m => ({ value: m.id, label: m.name }))]}
            onChange={v => seek('machine', v ?? '')}
          />
          <Select
            aria-label="Kind"
            value={sought.kind}
            options={[{ value: '', label: 'every kind' }, ...kinds.map(k => ({ value: k.name, label: k.title }))]}
            onChange={v => seek('kind', v ?? '')}
          />
          <Input aria-label="From" type="date" value={sought.from} onChange={e => seek('from', e.target.value)} />
          <Input aria-label="Until" type="date" value={sought.until} onChange={e => seek('until', e.target.value)} />
          <Checkbox checked={sought.open} onChange={e => seek('open', e.target.checked ? 'yes' : '')}>
            only what is open
          </Checkbox>
        </div>
        {lines.length === 0 && <p className="soft">Nothing like that is written down.</p>}
        <ul className="lines">
          {lines.map(l => (
            <Row
              key={l.id}
              line={l}
              kind={kinds.find(k => k.name === l.kind)}
              machine={machines.find(m => m.id === l.machine)?.name}
              write={write}
            />
          ))}
        </ul>
        <p className="links">
          {older.length > 0 && <Button onClick={() => setOlder(older.slice(0, -1))}>Newer</Button>}
          {more && <Button onClick={() => setOlder([...older, lines.at(-1)!.place])}>Older</Button>}
        </p>
      </section>
    </div>
  );
}

function Row({
  line,
  kind,
  machine,
  write,
}: {
  line: Line;
  kind?: Schemas['DaybookKind'];
  machine?: string;
  write: (e: Partial<Entry>) => void;
}) {
  const { open, late } = line;
  const of = { machine: line.machine, motor: line.motor };
  return (
    <li className={line.corrected_by ? 'corrected' : open ? 'open' : ''}>
      <span className="when">{new Date(line.at).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' })}</span>
      <span className="what">
        <b>{kind?.title ?? line.kind}</b>
        {machine && (
          <>
            {' · '}
            <Link to={`/machines/${line.machine}/prove${line.motor && `?motor=${line.motor}`}`}>{machine}</Link>
          </>
        )}
        <span className="soft"> · {line.hand}</span>
        <span className="says">{line.says}</span>
        {line.photos?.map(p => (
          <a key={p} href={photoAt(p)}>
            <img className="likeness" src={photoAt(p)} alt="Picture of the line" loading="lazy" />
          </a>
        ))}
        {!!line.hours && <span className="soft figures"> at {line.hours} h on its counter</span>}
        {open && (
          <span className={late ? 'late' : 'soft'}>
            {line.who ? `for ${line.who}` : 'for nobody yet'}
            {line.due && `, ${late ? 'was due' : 'due'} ${line.due}`}
            {!!line.due_hours && `, ${late ? 'was due' : 'due'} at ${line.due_hours} h`}
          </span>
        )}
        {line.ended_by && <span className="soft">ended since</span>}
        {line.corrected_by && <span className="soft">corrected since</span>}
      </span>
      <span className="acts">
        {open && (
          <Button
            size="small"
            onClick={() => write({ ...of, kind: line.kind === 'fault' ? 'cure' : 'done', ends: line.id })}
          >
            {line.kind === 'fault' ? 'Cured' : 'Done'}
          </Button>
        )}
        {kind?.typed && !line.corrected_by && (
          <Button
            size="small"
            type="text"
            onClick={() =>
              write({ ...of, kind: line.kind, says: line.says, who: line.who, due: line.due, corrects: line.id })
            }
          >
            Correct it
          </Button>
        )}
      </span>
    </li>
  );
}

/** A line, written in a few seconds; what is typed stays over a reload. */
function Writing({
  shop,
  from,
  kinds,
  upkeep,
  machines,
  add,
  close,
}: {
  shop: string;
  from: Partial<Entry>;
  kinds: Schemas['DaybookKind'][];
  upkeep: Schemas['DaybookUpkeep'][];
  machines: { id: string; name: string }[];
  add: (e: Entry) => void;
  close: () => void;
}) {
  const blank = {
    kind: from.kind ?? 'note',
    machine: from.machine ?? '',
    says: from.says ?? '',
    who: from.who ?? '',
    due: from.due ?? '',
    hand: from.hand ?? lastHand(),
    hours: from.hours ? String(from.hours) : '',
    dueHours: from.due_hours ? String(from.due_hours) : '',
    photo: from.photos?.[0] ?? '',
  };
  const [typed, setTyped, settle] = useKept(`${shop}.line.${from.corrects ?? from.ends ?? from.id ?? ''}`, blank);
  const set = (change: Partial<typeof blank>) => setTyped({ ...typed, ...change });
  const open = kinds.find(k => k.name === typed.kind)?.open ?? false;
  const count = (text: string) => Number(text.trim().replace(',', '.') || 0);
  const counts = [typed.hours, typed.dueHours].map(count);
  const missing = !typed.says.trim()
    ? 'Nothing is written yet.'
    : !typed.hand.trim()
      ? 'Say who writes it.'
      : counts.some(n => !Number.isFinite(n) || n < 0)
        ? 'Hours are a number.'
        : '';
  /** What is usual to fall due, with its day and its hours from now. */
  const plan = (name: string) => {
    const u = upkeep.find(x => x.name === name);
    if (!u) return;
    const day = new Date();
    day.setDate(day.getDate() + u.days);
    set({
      kind: 'due',
      says: u.says,
      due: u.days > 0 ? dayOf(day) : '',
      dueHours: u.hours > 0 && typed.machine !== '' ? String(count(typed.hours) + u.hours) : '',
    });
  };
  return (
    <section className="panel writing" aria-label="A line">
      <Input.TextArea
        aria-label="What happened"
        placeholder="What happened, was seen, heard, changed, is to be done"
        autoFocus
        rows={3}
        maxLength={2000}
        value={typed.says}
        onChange={e => set({ says: e.target.value })}
      />
      <div className="seek">
        <Select
          aria-label="Kind of the line"
          value={typed.kind}
          options={kinds.filter(k => k.typed).map(k => ({ value: k.name, label: k.title }))}
          onChange={v => set({ kind: v ?? 'note' })}
        />
        <Select
          aria-label="Machine of the line"
          value={typed.machine}
          options={[{ value: '', label: 'the whole shop' }, ...machines.map(m => ({ value: m.id, label: m.name }))]}
          onChange={v => set({ machine: v ?? '' })}
        />
        {typed.kind === 'due' && (
          <Select
            aria-label="Usual upkeep"
            placeholder="Usual upkeep"
            value={null}
            options={upkeep.map(u => ({ value: u.name, label: u.title }))}
            onChange={v => plan(v ?? '')}
          />
        )}
        {typed.machine !== '' && (
          <Input
            aria-label="Hours on its counter"
            placeholder="Hours on its counter"
            inputMode="decimal"
            maxLength={9}
            value={typed.hours}
            onChange={e => set({ hours: e.target.value })}
          />
        )}
        {open && (
          <>
            {typed.machine !== '' && (
              <Input
                aria-label="Due at hours"
                placeholder="Due at hours"
                inputMode="decimal"
                maxLength={9}
                value={typed.dueHours}
                onChange={e => set({ dueHours: e.target.value })}
              />
            )}
            <Input
              aria-label="Whose it is"
              placeholder="Whose it is"
              maxLength={40}
              value={typed.who}
              onChange={e => set({ who: e.target.value })}
            />
            <Input aria-label="By the day" type="date" value={typed.due} onChange={e => set({ due: e.target.value })} />
          </>
        )}
        <Input
          aria-label="Written by"
          placeholder="Written by"
          maxLength={40}
          value={typed.hand}
          onChange={e => set({ hand: e.target.value })}
        />
      </div>
      <Picture
        id="line-photo"
        alt="Picture of the line"
        shop={shop}
        photo={typed.photo}
        change={photo => set({ photo })}
      />
      <p className="links">
        <Button
          type="primary"
          disabled={missing !== ''}
          onClick={() => {
            keepHand(typed.hand);
            settle();
            add({
              id: newId(),
              at: moment(),
              kind: typed.kind,
              machine: typed.machine,
              says: typed.says,
              hand: typed.hand,
              hours: typed.machine ? counts[0] : 0,
              due_hours: typed.machine && open ? counts[1] : 0,
              photos: typed.photo ? [typed.photo] : [],
              due: open ? typed.due : '',
              who: open ? typed.who : '',
              motor: from.motor ?? '',
              ends: from.ends ?? '',
              corrects: from.corrects ?? '',
            });
          }}
        >
          Write it down
        </Button>
        <Button onClick={close}>Leave it</Button>
        <span className="soft">
          {from.corrects
            ? 'It takes the place of the line that it corrects.'
            : from.ends
              ? 'It ends what was open.'
              : ''}{' '}
          {missing}
        </span>
      </p>
    </section>
  );
}
