import { Button, Input, Select, Switch } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { Problem, words, type Schemas } from '../api/client';
import { useFloorCards, useTogether } from '../api/hooks';
import { Numeral } from '../parts/Numeral';
import { BrokenList, namesOf } from './Side';
import { changed, removed, thingOf, type Value } from './tree';
import type { Floor, Page } from './useFloor';

type Field = Schemas['SiteField'];
type Option = Schemas['SiteOption'];

/** What is chosen on the floor: its fields, what the code says of it, and what can be done with it. */
export function ThingForm({
  page,
  floor,
  kind,
  id,
  name,
  close,
}: {
  page: Page;
  floor: Floor;
  kind: Schemas['FloorBox']['kind'];
  id: string;
  name: string;
  close: () => void;
}) {
  const cards = useFloorCards(page.shop.id, page.shop.version);
  const card = cards.data?.find(c => c.id === id);
  const fields = page.forms[kind];
  const thing = thingOf(floor.site, kind, id);
  const first = useRef<HTMLHeadingElement>(null);
  useEffect(() => first.current?.focus(), [id]);
  const [sure, setSure] = useState(false);
  useEffect(() => setSure(false), [id]);
  if (!thing) return null;

  const motors = floor.picture?.machines.find(m => m.id === id)?.motors ?? [];
  const several = (f: Field) => f.name === 'first' || f.kind === 'several'; // of its motors
  const options = (f: Field): Option[] => {
    if (f.kind === 'place')
      return page.places[kind as 'circuit' | 'converter' | 'machine' | 'load'].filter(o => o.value !== id);
    if (several(f)) return [...f.choices, ...motors.map(m => ({ value: m.id, title: m.name || m.id }))];
    if (f.name === 'idler') return [...f.choices, ...page.spare.map(m => ({ value: m.name, title: m.title }))];
    return f.choices;
  };
  const on = String(thing.on ?? '');
  const shared = floor.site.circuits?.find(c => c.id === on)?.change_over;
  const holds = (c: Field['when'][number]) => String(valueAt(thing, c.name) ?? '') === c.value;
  const seen = fields.filter(
    f => (f.kind !== 'side' || shared) && (!several(f) || motors.length > 1) && f.when.every(holds),
  );
  const set = (f: Field, value: Value) => floor.edit(changed(floor.site, kind, id, f.name, value));
  const fault = floor.fault;
  const begins = faultPlace(floor, kind, id);
  const saysOf = (f: Field) =>
    fault instanceof Problem ? fault.fields.find(x => x.location === `${begins}.${f.name}`)?.message : undefined;
  const draw = (f: Field) => (
    <div className={narrow(f, options(f)) ? 'labelled half' : 'labelled'} key={f.name}>
      <label htmlFor={`thing-${f.name}`}>{f.title}</label>
      <FieldInput
        field={f}
        id={id}
        value={valueAt(thing, f.name)}
        options={options(f)}
        change={value => set(f, value)}
        says={saysOf(f)}
      />
      {f.hint && <span className="soft small">{f.hint}</span>}
    </div>
  );
  return (
    <section className="panel thing" aria-labelledby="thing-title">
      <header>
        <h2 id="thing-title" ref={first} tabIndex={-1}>
          {name}
        </h2>
        <Button size="small" type="text" onClick={close} aria-label="Close">
          ×
        </Button>
      </header>
      {kind === 'converter' && !thing.kind && <Link to={`/converters/${id}`}>Its card: what it could be</Link>}
      {kind === 'machine' && <Link to={`/machines/${id}/plate`}>Open its card</Link>}
      {kind === 'converter' && !thing.kind && !!thing.idler && (
        <Link to={`/machines/${String(thing.idler)}/plate`}>Plate and leads of its idler</Link>
      )}
      {fault instanceof Error && (
        <p className="problem" role="alert">
          {words(fault)}
        </p>
      )}
      <div className="thing-fields">{seen.filter(f => !f.more).map(draw)}</div>
      {seen.some(f => f.more) && (
        <details>
          <summary>More of it</summary>
          <div className="thing-fields">{seen.filter(f => f.more).map(draw)}</div>
        </details>
      )}
      {card && card.broken.length > 0 && <BrokenList broken={card.broken} />}
      {card && card.facts.length > 0 && (
        <details className="facts" open>
          <summary>By the code and the model</summary>
          <dl>
            {card.facts.map(f => (
              <div key={f.label}>
                <dt>{f.label}</dt>
                <dd>
                  <b>{f.value}</b> <span className="soft small">{f.remark}</span>
                </dd>
              </div>
            ))}
          </dl>
        </details>
      )}
      {kind === 'machine' && <Beside page={page} floor={floor} id={id} />}
      {(kind === 'machine' || kind === 'converter') && <Button onClick={() => floor.began(id)}>Play its start</Button>}
      {kind !== 'service' && kind !== 'machine' && (
        <Button
          danger
          onClick={() => {
            if (!sure) return setSure(true);
            floor.edit(removed(floor.site, id), 0);
            close();
          }}
        >
          {sure ? `Yes, take ${name} away` : 'Take it away'}
        </Button>
      )}
    </section>
  );
}

/** Beside which others a machine can be started. */
function Beside({ page, floor, id }: { page: Page; floor: Floor; id: string }) {
  const t = useTogether(page.shop.id, page.shop.version, floor.state.shares ?? {}).data;
  const own = t?.startable[id];
  if (!own) return null;
  const names = namesOf(page, floor.picture);
  const list = (ids: string[]) => ids.map(x => names.get(x) ?? x).join(', ');
  return (
    <p className="small">
      <b>Starts beside</b> {own.with.length > 0 ? list(own.with) : 'nothing else'}
      {own.not_with.length > 0 && (
        <>
          ; <b>not beside</b> {own.not_with.map(x => list(x ?? [])).join('; ')}
        </>
      )}
      .
    </p>
  );
}

/** Whether two such fields stand beside one another. */
const narrow = (f: Field, options: Option[]) =>
  f.kind === 'number' || f.kind === 'switch' || (f.kind === 'choice' && options.every(o => o.title.length < 15));

/** Where the server says that something is wrong with a thing. */
function faultPlace(floor: Floor, kind: string, id: string): string {
  const lists = { circuit: 'circuits', converter: 'converters', load: 'loads', machine: 'hung' } as const;
  const list = lists[kind as keyof typeof lists];
  const i = list ? (floor.site[list] ?? []).findIndex(x => x.id === id) : -1;
  return i < 0 ? 'body.site' : `body.site.${list}[${i}]`;
}

const valueAt = (thing: Record<string, unknown>, name: string): unknown =>
  name.split('.').reduce<unknown>((at, part) => (at as Record<string, unknown> | undefined)?.[part], thing);

function FieldInput({
  field,
  id,
  value,
  options,
  change,
  says,
}: {
  field: Field;
  id: string;
  value: unknown;
  options: Option[];
  change: (value: Value) => void;
  says?: string;
}) {
  const own = `thing-${field.name}`;
  switch (field.kind) {
    case 'text':
      return <NameInput id={own} key={id} value={String(value ?? '')} change={change} />;
    case 'number': {
      const figure = typeof value === 'number' && value !== 0 ? Number((value * field.per).toPrecision(5)) : null;
      return (
        <Numeral
          keep={`floor.${id}.${field.name}`}
          key={id}
          label={field.title}
          value={figure}
          from={0}
          unit={field.unit}
          change={v => change(v === null ? 0 : v / field.per)}
          says={says}
        />
      );
    }
    case 'switch':
      return <Switch id={own} checked={value === true} onChange={change} />;
    case 'several':
      return (
        <Select
          id={own}
          mode="multiple"
          value={(value as string[] | undefined) ?? []}
          options={options.map(o => ({ value: o.value, label: o.title }))}
          onChange={change}
          placeholder="none"
        />
      );
  }
  const shown = value === undefined || value === null ? (options[0]?.value ?? '') : String(value);
  return (
    <>
      <Select
        id={own}
        value={shown}
        options={options.map(o => ({ value: o.value, label: o.title }))}
        onChange={v => change(field.numeric ? Number(v) : v)}
        status={says ? 'error' : undefined}
        showSearch={options.length > 8 && { optionFilterProp: 'label' }}
      />
      {says && (
        <span className="problem" role="alert">
          {says}
        </span>
      )}
    </>
  );
}

/** A name, kept while it is not one. */
function NameInput({ id, value, change }: { id: string; value: string; change: (value: string) => void }) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return (
    <>
      <Input
        id={id}
        value={text}
        maxLength={80}
        status={text.trim() ? undefined : 'error'}
        onChange={e => {
          setText(e.target.value);
          if (e.target.value.trim()) change(e.target.value);
        }}
      />
      {!text.trim() && (
        <span className="problem" role="alert">
          Give it a name; until then it is {value}.
        </span>
      )}
    </>
  );
}
