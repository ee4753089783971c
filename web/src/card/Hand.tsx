import { Button, Checkbox, Radio, Select } from 'antd';
import { memo, useCallback, useEffect, useRef, useState, type ReactNode } from 'react';
import type { Control, Page } from '../api/client';
import { Cans } from '../parts/Cans';
import { useLoads } from './shop';
import type { Draft, Set } from './parts';
import type { Attempt } from './page';
import { SlideRow } from './SlideRow';

/** What the draft holds of a control, so that a switch shows at once what was chosen by it. */
const held = (draft: Draft, name: string): unknown =>
  (({ ...draft.way, ...draft }) as unknown as Record<string, unknown>)[name];

/** The field of the draft that a control sets: of the motor itself, or of how it is fed. */
function patch(draft: Draft, name: string, value: number | string | null): Partial<Draft> {
  const was = typeof held(draft, name);
  const set = was === 'boolean' ? value === 1 : was === 'string' ? (value ?? '') : value;
  return name in draft ? { [name]: set } : { way: { ...draft.way, [name]: set } };
}

interface Turning {
  whole: Page;
  draft: Draft;
  set: Set;
  attempt: Attempt;
}

/** What can be turned by hand, with the capacitors that come of it: what is let go of is kept. */
export function Hand({ cans, slim, ...turning }: Turning & { cans: Page['cans']; slim: boolean }) {
  return (
    <section className={slim ? 'panel whatif slim' : 'panel whatif'}>
      <Turned {...turning} />
      {cans && <Cans {...cans} />}
    </section>
  );
}

/** What is turned, drawn anew only for another answer to what is kept. */
const Turned = memo(function Turned({ whole, draft, set, attempt }: Turning) {
  const { controls } = whole;
  const current = useRef(draft);
  useEffect(() => {
    current.current = draft;
  }, [draft]);
  const keep = useCallback(
    (c: Control, value: number | null) => set(c.name, patch(current.current, c.name, value)),
    [set],
  );
  const chosen = controls.filter(c => c.chosen);
  const slides = controls.filter(c => c.kind === 'slide');
  const back = () =>
    set(
      'choice',
      chosen.reduce((d, c) => ({ ...d, ...patch({ ...draft, ...d }, c.name, null) }), {} as Partial<Draft>),
    );
  return (
    <>
      <header>
        <h2>{slides.length > 0 ? 'What if' : 'What it drives'}</h2>
        {chosen.length > 0 ? (
          <Button size="small" onClick={back}>
            Back to the model’s choice
          </Button>
        ) : (
          slides.length > 0 && <span className="soft">drag, and the pictures follow</span>
        )}
      </header>
      <div className="sliders">
        {slides.map(c => (
          <Slide key={c.name} control={c} attempt={attempt} keep={keep} />
        ))}
        {controls
          .filter(c => c.kind === 'pick')
          .map(c => (
            <div key={c.name} className="slide-foot">
              <Pick control={c} chosen={held(draft, c.name) as number | null} keep={value => keep(c, value)} />
            </div>
          ))}
        {controls
          .filter(c => c.kind === 'named')
          .map(c => (
            <div key={c.name} className="slide-foot">
              <label className="idler">
                {c.title}{' '}
                <Select
                  aria-label={c.title}
                  value={(held(draft, c.name) as string) || c.named}
                  onChange={name => set(c.name, patch(draft, c.name, name))}
                  popupMatchSelectWidth={false}
                  options={c.options.map(o => ({ value: o.name, label: o.title }))}
                />
              </label>
            </div>
          ))}
        <div className="slide-foot">
          <Driven load={draft.load} set={set}>
            {controls
              .filter(c => c.kind === 'switch' && c.options.length === 0)
              .map(c => (
                <Checkbox
                  key={c.name}
                  checked={held(draft, c.name) === true}
                  onChange={e => keep(c, e.target.checked ? 1 : 0)}
                >
                  {c.title}
                </Checkbox>
              ))}
          </Driven>
        </div>
      </div>
      {controls
        .filter(c => c.kind === 'switch' && c.options.length > 0)
        .map(c => (
          <div key={c.name} className="several">
            <p>{c.title}</p>
            <Radio.Group
              value={held(draft, c.name) === true ? 1 : 0}
              onChange={e => keep(c, e.target.value as number)}
              options={c.options.map(o => ({ value: o.value ?? 0, label: o.title }))}
            />
          </div>
        ))}
    </>
  );
});

/**
 * One slider. What is being tried is its own until what is saved has been answered, so that nothing else is drawn
 * before the answer to it is there.
 */
const Slide = memo(function Slide({
  control,
  attempt,
  keep,
}: {
  control: Control;
  attempt: Attempt;
  keep: (control: Control, value: number) => void;
}) {
  const { name, title, unit, value, least, most, step, scale } = control;
  const [tried, setTried] = useState<number | null>(null);
  useEffect(() => setTried(null), [control]);
  const slide = useCallback(
    (v: number) => {
      attempt({ [name]: v / scale });
      setTried(v / scale);
    },
    [attempt, name, scale],
  );
  const settle = useCallback(
    (v: number) => {
      slide(v);
      keep(control, v / scale);
    },
    [slide, keep, control, scale],
  );
  return (
    <SlideRow
      name={name}
      label={title}
      value={(tried ?? value) * scale}
      least={least}
      most={most}
      step={step}
      unit={unit}
      slide={slide}
      keep={settle}
    />
  );
});

/** One of a row, or what the model takes. */
function Pick({
  control,
  chosen,
  keep,
}: {
  control: Control;
  chosen: number | null;
  keep: (value: number | null) => void;
}) {
  const { title, options } = control;
  const none = -1;
  return (
    <label className="idler">
      {title}{' '}
      <Select
        aria-label={title}
        value={chosen ?? none}
        onChange={v => keep(v === none ? null : v)}
        popupMatchSelectWidth={false}
        options={options.map(o => ({ value: o.value ?? none, label: o.title }))}
      />
    </label>
  );
}

/** What the motor drives. */
const Driven = memo(function Driven({ load, set, children }: { load: string; set: Set; children?: ReactNode }) {
  const options = useLoads();
  return (
    <>
      <Select
        aria-label="What it drives"
        value={load}
        options={options}
        onChange={name => set('load', { load: name, load_share: null })}
      />
      {children}
    </>
  );
});
