import { Button, Checkbox, Input, Select } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { words, type Schemas } from '../api/client';
import { readMeterLog } from '../api/hooks';
import { useKept } from '../parts/kept';
import { keepHand, lastHand, moment } from '../parts/written';
import type { Reading } from './useReadings';
import { newId } from '../parts/id';

type Typed = Record<string, string>;
type Place = Schemas['ProvePlace'];

const number = (text: string) => Number(text.trim().replace(',', '.'));

/** Where the unit that a figure was read in is kept, '' for that of its place. */
const inOf = (place: string) => `${place} in`;
/** The unit that a figure was last read in at this device. */
const lastIn = (p: Place) => localStorage.getItem(`brackmoor.in.${p.unit}`) ?? '';

/** What a pad is for: a state, what the meters said, who read it. Nothing typed is lost over a reload. */
export function ReadingForm({
  motor,
  page,
  from,
  add,
  close,
}: {
  motor: string;
  page: Schemas['Proof'];
  from: Partial<Reading>;
  add: (r: Reading) => void;
  close: () => void;
}) {
  const first: Typed = {
    state: from.state ?? page.due,
    hand: from.hand ?? lastHand(),
    class: from.class_percent ? String(from.class_percent) : '',
    share: from.share === undefined || from.share === null ? '' : String(Math.round(100 * from.share)),
    note: from.note ?? '',
    source: from.source ?? '',
    meter: from.meter ?? '',
    volts: from.volts_percent ? String(from.volts_percent) : '',
    unable: from.unable ? 'yes' : '',
    ...Object.fromEntries(
      page.banks.flatMap(b => {
        const had = b.name === 'ac' ? from.ac_microfarad : from.bc_microfarad;
        return had === undefined ? [] : [[b.name, String(had)]];
      }),
    ),
    ...Object.fromEntries((from.figures ?? []).map(f => [f.place, String(f.value)])),
    ...Object.fromEntries(page.places.map(p => [inOf(p.name), from.figures ? (from.in?.[p.name] ?? '') : lastIn(p)])),
  };
  const [typed, setTyped, settle] = useKept<Typed>(`${motor}.reading.${from.corrects ?? from.id ?? ''}`, first);
  const head = useRef<HTMLHeadingElement>(null);
  const pick = useRef<HTMLInputElement>(null);
  useEffect(() => head.current?.focus(), []);
  const set = (name: string, text: string) => setTyped({ ...typed, [name]: text });
  const state = page.states.find(s => s.name === typed.state);
  const loaded = state?.loaded ?? false;
  const [filled, fill] = useState('');
  /** What is in circuit in the state, until somebody says otherwise. */
  const bank = (b: Schemas['ProveBank']) =>
    typed[b.name] ?? String(Math.round(10 * (loaded ? b.loaded_microfarad : b.microfarad)) / 10);
  const log = async (file?: File) => {
    if (!file) return;
    try {
      const read = await readMeterLog(motor, { state: typed.state!, text: await file.text() });
      setTyped({
        ...typed,
        note: [typed.note, read.note].filter(Boolean).join(' '),
        ...Object.fromEntries(
          read.figures.flatMap(f => [
            [f.place, String(f.value)],
            [inOf(f.place), ''],
          ]),
        ),
      });
      fill(
        `${read.figures.length} figures of ${read.rows} rows are filled in.` +
          (read.left.length > 0 ? ` Not understood: ${read.left.join(', ')}.` : ''),
      );
    } catch (e) {
      fill(words(e));
    }
  };
  const bad = (name: string) => {
    const text = typed[name] ?? '';
    return text.trim() !== '' && !(Number.isFinite(number(text)) && (number(text) >= 0 || /^(room|frame)$/.test(name)));
  };
  const numeric = [...page.places.map(p => p.name), ...page.banks.map(b => b.name), 'class', 'share', 'volts'];
  const unable = typed.unable === 'yes' && (state?.hard ?? false);
  const wrong = numeric.some(bad);
  const figures = page.places
    .filter(p => !unable && (typed[p.name] ?? '').trim() !== '' && !bad(p.name))
    .map(p => ({ place: p.name, value: number(typed[p.name]!) }));
  const of = (name: string) => ((typed[name] ?? '').trim() === '' ? 0 : number(typed[name]!));
  const missing = !typed.hand?.trim()
    ? 'Say who read it.'
    : figures.length === 0 && !typed.note?.trim() && !unable
      ? 'Nothing is read yet.'
      : '';
  const write = () => {
    keepHand(typed.hand!);
    settle();
    add({
      id: newId(),
      at: moment(),
      hand: typed.hand!.trim(),
      state: typed.state!,
      share: (typed.share ?? '').trim() === '' ? null : number(typed.share!) / 100,
      ac_microfarad: page.banks.filter(b => b.name === 'ac').reduce((_, b) => number(bank(b)), 0),
      bc_microfarad: page.banks.filter(b => b.name === 'bc').reduce((_, b) => number(bank(b)), 0),
      volts_percent: of('volts'),
      unable,
      source: (typed.source ?? '').trim(),
      class_percent: of('class'),
      meter: (typed.meter ?? '').trim(),
      figures,
      in: Object.fromEntries(figures.flatMap(f => (typed[inOf(f.place)] ? [[f.place, typed[inOf(f.place)]!]] : []))),
      note: typed.note ?? '',
      corrects: from.corrects ?? '',
    });
  };
  /** The unit behind a figure: pressed, the meter shows the other one. */
  const turned = (p: Place) => {
    const other = typed[inOf(p.name)] ? '' : page.other_units[p.unit]!;
    localStorage.setItem(`brackmoor.in.${p.unit}`, other);
    set(inOf(p.name), other);
  };
  const unitOf = (p: Place) => typed[inOf(p.name)] || p.unit;
  const field = (
    name: string,
    title: string,
    unit: string,
    group = '',
    value = typed[name] ?? '',
    turn?: () => void,
  ) => (
    <label key={name} className="reading-field">
      <span>{title}</span>
      <Input
        aria-label={`${title} ${unit}${group && `, ${group}`}`}
        aria-invalid={bad(name)}
        status={bad(name) ? 'error' : undefined}
        inputMode="decimal"
        enterKeyHint="next"
        maxLength={12}
        suffix={
          turn ? (
            <button
              type="button"
              className="other-unit"
              aria-label={`${title} in ${unit}: another unit`}
              onClick={turn}
            >
              {unit}
            </button>
          ) : (
            unit
          )
        }
        value={value}
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
      {page.places
        .filter(p => p.group === group)
        .map(p =>
          field(
            p.name,
            p.title,
            unitOf(p),
            p.unit === 'A' ? group : '',
            typed[p.name],
            page.other_units[p.unit] ? () => turned(p) : undefined,
          ),
        )}
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
          {page.banks.map(b => field(b.name, b.title, 'µF', '', bank(b)))}
          {field('volts', 'Of the supply’s volts', '%')}
          {state?.hard && (
            <Checkbox className="unable" checked={unable} onChange={e => set('unable', e.target.checked ? 'yes' : '')}>
              could not be brought about
            </Checkbox>
          )}
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
            <span>Which meter</span>
            <Input
              aria-label="Which meter"
              maxLength={60}
              value={typed.meter}
              onChange={e => set('meter', e.target.value)}
            />
          </label>
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
        <input
          ref={pick}
          id="meter-log"
          className="visually-hidden"
          type="file"
          tabIndex={-1}
          aria-label="A meter’s table"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          onChange={e => void log(e.target.files?.[0])}
        />
        <Button onClick={() => pick.current?.click()}>From a meter’s CSV</Button>
        <span className="soft" role="status">
          {filled} {missing}
        </span>
      </p>
    </section>
  );
}
