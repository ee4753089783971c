import { Button, Input, Segmented, Select } from 'antd';
import type { Schemas } from '../api/client';
import { useChoices, usePhotos } from '../api/hooks';
import { Numeral } from '../parts/Numeral';
import { fixed } from '../parts/number';
import type { Draft, Set } from './parts';
import { Photos } from './Photos';

type Terminal = Schemas['ControlsTerminal'];

const fates = [
  { value: 'keep', label: 'keep' },
  { value: 'bypass', label: 'bypass' },
  { value: 'reuse', label: 'reuse' },
];

/** What the machine has of its own controls, written down at its open cabinet, and what becomes of each. */
export function OwnControls({
  motor,
  draft,
  made,
  set,
}: {
  motor: string;
  draft: Draft;
  made: Schemas['Wiring'];
  set: Set;
}) {
  const functions = useChoices().data?.functions ?? [];
  // A terminal's photo is most likely one of the cabinet; photos of before there were such are of the plate.
  const photos = (usePhotos(motor).data?.photos ?? []).toSorted((a, b) => a.shows.localeCompare(b.shows));
  const list = draft.controls;
  const put = (i: number, change: Partial<Terminal>) =>
    set(`controls.${i}`, { controls: list.map((t, k) => (k === i ? { ...t, ...change } : t)) });
  return (
    <div className="own-controls">
      <p className="soft">
        Isolate, lock, prove dead. Then terminal by terminal, before a wire comes off: nothing is remembered afterwards.
      </p>
      <Photos motor={motor} shows="cabinet" />
      <ul>
        {list.map((t, i) => {
          const becomes = made.controls[i];
          return (
            <li key={i}>
              <label>
                Terminal
                <Input value={t.mark} maxLength={40} onChange={e => put(i, { mark: e.target.value })} />
              </label>
              <label>
                Mark on its wire
                <Input value={t.wire ?? ''} maxLength={40} onChange={e => put(i, { wire: e.target.value })} />
              </label>
              <label>
                Goes to
                <Input value={t.to ?? ''} maxLength={80} onChange={e => put(i, { to: e.target.value })} />
              </label>
              <label>
                Is for
                <Select
                  aria-label={`What terminal ${t.mark || i + 1} is for`}
                  value={t.function ?? ''}
                  options={[
                    { value: '', label: 'not known yet' },
                    ...functions.map(f => ({ value: f.name, label: f.title })),
                  ]}
                  onChange={v => put(i, { function: v })}
                />
              </label>
              <div className="labelled">
                <label>Volts</label>
                <Numeral
                  keep={`controls.${motor}.${i}`}
                  label={`Volts of terminal ${t.mark || i + 1}`}
                  value={t.volts || null}
                  from={0}
                  unit="V"
                  change={v => put(i, { volts: v ?? 0 })}
                />
              </div>
              {photos.length > 0 && (
                <label>
                  Photo
                  <Select
                    aria-label={`Photo of terminal ${t.mark || i + 1}`}
                    value={t.photo ?? ''}
                    options={[
                      { value: '', label: 'none' },
                      ...photos.map((p, k) => ({ value: p.id, label: p.name || `${p.shows}, photo ${k + 1}` })),
                    ]}
                    onChange={v => put(i, { photo: v })}
                  />
                </label>
              )}
              <Segmented
                aria-label={`What is done with terminal ${t.mark || i + 1}`}
                value={t.fate || becomes?.fate || ''}
                options={fates}
                onChange={v => put(i, { fate: v as Terminal['fate'] })}
              />
              <Button type="text" onClick={() => set('controls', { controls: list.filter((_, k) => k !== i) })}>
                Take away
              </Button>
              {becomes && (
                <p className="becomes">
                  <b>{t.mark || 'It'}:</b> {becomes.says}
                  {becomes.inputs.length > 0 && <span className="figures"> {becomes.inputs.join(' · ')}</span>}
                  {becomes.caution && <span className="caution-words"> {becomes.caution}</span>}
                </p>
              )}
            </li>
          );
        })}
      </ul>
      <Button onClick={() => set('controls', { controls: [...list, { mark: '' }] })}>Write down a terminal</Button>
      {made.controls.length > 0 && (
        <p>
          All of it takes about <b>{fixed(made.control_hours, 1)} hours</b> of tracing, bridging and wiring anew.
        </p>
      )}
    </div>
  );
}
