import { Segmented } from 'antd';
import { lazy, useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import { Later } from '../parts/Later';
import { ask, client, type Page, type Trial, type Verdict } from '../api/client';
import { useLines } from '../frame/shop';
import { Band } from '../parts/Band';
import { useCalm } from '../parts/calm';
import { Hand } from './Hand';
import { Panels } from './Panels';
import type { Draft, Set } from './parts';
import { useTrial } from './page';
import { dutyFields, inertiaFields, ShaftForm } from './ShaftForm';

const Scope = lazy(() => import('../parts/Scope'));

/** A way of feeding as the server describes it: the answer, its views, and what is turned by hand. */
export function WayPage({
  motor,
  stamp,
  whole,
  tell,
  off,
  draft,
  set,
  problems,
  choose,
}: {
  motor: string;
  stamp: number;
  whole: Page;
  tell: (of: Page, verdicts: Verdict[]) => void;
  /** What it does after switch-off, in a sentence. */ off: string;
  draft: Draft;
  set: Set;
  problems: Record<string, string>;
  choose: ReactNode;
}) {
  const [look, setLook] = useState('');
  const { page, trial, attempt, fault } = useTrial(motor, whole);
  // The pictures come first; the figures, the parts and what is said right after.
  const calm = useCalm(useMemo(() => ({ page, trial, whole }), [page, trial, whole]));
  const { cans, headline, verdicts } = calm.page;
  useEffect(() => tell(calm.whole, verdicts), [tell, calm.whole, verdicts]);
  const view = page.views.find(v => v.name === look) ?? page.views[0];
  const { way } = page;
  const window = JSON.stringify([motor, stamp, way, calm.trial]);
  const scope = useCallback(
    (from: number, to: number, buckets: number, channels: string[]) => {
      const values = (JSON.parse(window) as unknown[])[3] as Trial | null;
      const query = { ...values, from, to, buckets, channels };
      return ask(client.GET('/motors/{id}/ways/{way}/scope', { params: { path: { id: motor, way }, query } }));
    },
    [motor, way, window],
  );
  const { shaft } = draft;
  const hand = useCallback(
    (slim: boolean) => (
      <Hand key="hand" whole={whole} cans={cans} draft={draft} set={set} attempt={attempt} slim={slim} />
    ),
    [whole, cans, draft, set, attempt],
  );
  const name = view?.name;
  const looks = useMemo(
    () =>
      whole.views.length > 1 && (
        <Segmented
          className="looks"
          value={name}
          onChange={setLook}
          options={whole.views.map(v => ({ value: v.name, label: v.title }))}
          aria-label="What is shown"
        />
      ),
    [whole, name],
  );
  const slim = useCallback(() => hand(true), [hand]);
  const inertia = useCallback(
    () => (
      <>
        <ShaftForm fields={inertiaFields} shaft={shaft} problems={problems} set={set} />
        {off !== '' && <p className="soft">{off}</p>}
      </>
    ),
    [shaft, problems, set, off],
  );
  const duty = useCallback(
    () => <ShaftForm fields={dutyFields} shaft={shaft} problems={problems} set={set} />,
    [shaft, problems, set],
  );
  const lines = useLines();
  const traces = useCallback(
    () => (
      <section key="scope" className="panel at-full">
        <Later wait={<p className="soft">Opening the scope…</p>}>
          <Scope ask={scope} stamp={window} lines={lines} />
        </Later>
      </section>
    ),
    [scope, window, lines],
  );
  const own = { hand: slim, inertia, duty, scope: traces };
  const inViews = page.views.some(v => v.panels.some(p => p.kind === 'hand'));
  return (
    <>
      <Band rows={headline} />
      <div className="looks-row">
        {choose}
        {looks}
      </div>
      {fault && (
        <p className="problem at-full" role="alert">
          {fault}
        </p>
      )}
      {view && <Panels key={view.name} panels={view.panels} own={own} />}
      {!inViews && page.controls.length > 0 && hand(false)}
      <Panels panels={page.below} own={own} />
    </>
  );
}
