import { Button, Input, Select } from 'antd';
import { useEffect, useRef } from 'react';
import type { Schemas } from '../api/client';
import { useKept } from '../parts/kept';
import { keepHand, lastHand, moment } from '../parts/written';
import type { Reading } from './useReadings';

type Typed = Record<string, string>;

const number = (text: string) => Number(text.trim().replace(',', '.'));

/** What a pad is for: a state, what the meters said, who read it. Nothing typed is lost over a reload. */
export function ReadingForm({
  motor,
  page,
  from,
  add,
  close,
}: {
  motor: string;
  page: Schemas['ProvePage'];
  from: Partial<Reading>;
  add: (r: Reading) => void;
  close: () => void;
}) {
  const first: Typed = {
    state: from.state ?? page.rows.find(r => !r.by && r.state !== 'standing')?.state ?? page.states[0]!.name,
    hand: from.hand ?? lastHand(),
    class: from.class_percent ? String(from.class_percent) : '',
    share: from.share === undefined || from.share === null ? '' : String(Math.round(100 * from.share)),
    note: from.note ?? '',
    source: from.source ?? '',
    ...Object.fromEntries(
      page.banks.map(b => [
        b.name,
        String((b.name === 'ac' ? from.ac_microfarad : from.bc_microfarad) ?? Math.round(10 * b.microfarad) / 10),
      ]),
    ),
    ...Object.fromEntries((from.figures ?? []).map(f => [f.place, String(f.value)])),
  };
  const [typed, setTyped, settle] = useKept<Typed>(`${motor}.reading.${from.corrects ?? from.id ?? ''}`, first);
  const head = useRef<HTMLHeadingElement>(null);
  useEffect(() => head.current?.focus(), []);
  const set = (name: string, text: string) => setTyped({ ...typed, [name]: text });
  const bad = (name: string) => {
    const text = typed[name] ?? '';
    return text.trim() !== '' && !(Number.isFinite(number(text)) && (number(text) >= 0 || /^(room|frame)$/.test(name)));
  };
  const numeric = [...page.places.map(p => p.name), ...page.banks.map(b => b.name), 'class', 'share'];
  const wrong = numeric.some(bad);
  const figures = page.places
    .filter(p => (typed[p.name] ?? '').trim() !== '' && !bad(p.name))
    .map(p => ({ place: p.name, value: number(typed[p.name]!) }));
  const of = (name: string) => ((typed[name] ?? '').trim() === '' ? 0 : number(typed[name]!));
  const missing = !typed.hand?.trim()
    ? 'Say who read it.'
    : figures.length === 0 && !typed.note?.trim()
      ? 'Nothing is read yet.'
      : '';
  const write = () => {
    keepHand(typed.hand!);
    settle();
    add({
      id: crypto.randomUUID(),
      at: moment(),
      hand: typed.hand!.trim(),
      state: typed.state!,
      share: (typed.share ?? '').trim() === '' ? null : number(typed.share!) / 100,
      ac_microfarad: of('ac'),
      bc_microfarad: of('bc'),
      source: (typed.source ?? '').trim(),
      class_percent: of('class'),
      figures,
      note: typed.note ?? '',
      corrects: from.corrects ?? '',
    });
  };
  const field = (name: string, title: string, unit: string, group = '') => (
    <label key={name} className="reading-field">
      <span>{title}</span>
      <Input
        aria-label={`${title} ${unit}${group && `, ${group}`}`}
        aria-invalid={bad(name)}
        status={bad(name) ? 'error' : undefined}
        inputMode="decimal"
        enterKeyHint="next"
        maxLength={12}
        suffix={unit}
        value={typed[name] ?? ''}
        onChange={e => set(name, e.target.value)}
      />
      {bad(name) && (
        <span className="problem" role="alert">
          {title} is a number.
        </span>
      )}
    </label>
  );
  const groups = [...new Set(page.places.map(p => p.group))];
  const more = groups.slice(3);
  const inputs = (group: string) => (
    <fieldset key={group}>
      <legend>{group}</legend>
      {page.places.filter(p => p.group === group).map(p => field(p.name, p.title, p.unit, p.unit === 'A' ? group : ''))}
    </fieldset>
  );
  return (
    <section className="panel reading-form" aria-labelledby="reading-title">
      <header>
        <h2 id="reading-title" tabIndex={-1} ref={head}>
          {from.corrects ? 'Correct a reading' : 'A reading'}
        </h2>
        <span className="soft">in any order; what is not read stays empty. Live: one hand, covers on, no rings.</span>
        <span className="gap" />
        <Button size="small" type="text" aria-label="Close" onClick={close}>
          ×
        </Button>
      </header>
      <div className="reading-groups">
        <fieldset>
          <legend>State</legend>
          <label className="reading-field wide">
            <span>Running as</span>
            <Select
              aria-label="State"
              value={typed.state}
              options={page.states.map(s => ({ value: s.name, label: s.title }))}
              onChange={v => set('state', v)}
            />
          </label>
          {field('share', 'Load, where it is known', '%')}
          {page.banks.map(b => field(b.name, b.title, 'µF'))}
        </fieldset>
        {groups.slice(0, 3).map(inputs)}
        <details>
          <summary>{more.join(', ')}</summary>
          <div className="reading-groups">{more.map(inputs)}</div>
        </details>
        <fieldset>
          <legend>By whom</legend>
          <label className="reading-field">
            <span>Read by</span>
            <Input aria-label="Read by" maxLength={40} value={typed.hand} onChange={e => set('hand', e.target.value)} />
          </label>
          {field('class', 'Meter within', '%')}
          <label className="reading-field">
            <span>On another source</span>
            <Input
              aria-label="On another source"
              placeholder="this way"
              maxLength={80}
              value={typed.source}
              onChange={e => set('source', e.target.value)}
            />
          </label>
          <label className="reading-field wide">
            <span>Seen, heard, smelt</span>
            <Input aria-label="Note" maxLength={2000} value={typed.note} onChange={e => set('note', e.target.value)} />
          </label>
        </fieldset>
      </div>
      <p className="links">
        <Button type="primary" disabled={wrong || missing !== ''} onClick={write}>
          Write it down
        </Button>
        <span className="soft">{missing}</span>
      </p>
    </section>
  );
}
