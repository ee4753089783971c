import { Segmented } from 'antd';
import { lazy, Suspense, useCallback, useDeferredValue, useState, type ReactNode } from 'react';
import { ask, client, type Page, type Trial } from '../api/client';
import { Band } from '../parts/Band';
import { Hand } from './Hand';
import { Panels } from './Panels';
import type { Draft, Set } from './parts';
import type { Attempt } from './page';
import { dutyFields, inertiaFields, ShaftForm } from './ShaftForm';

const Scope = lazy(() => import('../parts/Scope'));

/** A way of feeding as the server describes it: the answer, its views, and what is turned by hand. */
export function WayPage({
  motor,
  stamp,
  whole,
  page,
  trial,
  off,
  draft,
  set,
  problems,
  attempt,
  choose,
}: {
  motor: string;
  stamp: number;
  whole: Page;
  page: Page;
  trial: Trial | null;
  /** What it does after switch-off, in a sentence. */ off: string;
  draft: Draft;
  set: Set;
  problems: Record<string, string>;
  attempt: Attempt;
  choose: ReactNode;
}) {
  const [look, setLook] = useState('');
  const calm = useDeferredValue(page); // the pictures come first, the figures and parts right after
  const view = page.views.find(v => v.name === look) ?? page.views[0];
  const { way } = page;
  // What the scope shows follows the hand once it rests.
  const tried = useDeferredValue(trial);
  const window = JSON.stringify([motor, stamp, way, tried]);
  const scope = useCallback(
    (from: number, to: number, buckets: number) => {
      const values = (JSON.parse(window) as unknown[])[3] as Trial | null;
      const query = { ...values, from, to, buckets };
      return ask(client.GET('/motors/{id}/ways/{way}/scope', { params: { path: { id: motor, way }, query } }));
    },
    [motor, way, window],
  );
  const hand = (slim: boolean) => (
    <Hand key="hand" whole={whole} cans={calm.cans} draft={draft} set={set} attempt={attempt} slim={slim} />
  );
  const own = {
    hand: () => hand(true),
    inertia: () => (
      <>
        <ShaftForm fields={inertiaFields} shaft={draft.shaft} problems={problems} set={set} />
        {off !== '' && <p className="soft">{off}</p>}
      </>
    ),
    duty: () => <ShaftForm fields={dutyFields} shaft={draft.shaft} problems={problems} set={set} />,
    scope: () => (
      <section key="scope" className="panel at-full">
        <Suspense fallback={<p className="soft">Opening the scope…</p>}>
          <Scope ask={scope} stamp={window} />
        </Suspense>
      </section>
    ),
  };
  const inViews = page.views.some(v => v.panels.some(p => p.kind === 'hand'));
  return (
    <>
      <Band rows={calm.headline} />
      <div className="looks-row">
        {choose}
        {page.views.length > 1 && (
          <Segmented
            className="looks"
            value={view?.name}
            onChange={setLook}
            options={page.views.map(v => ({ value: v.name, label: v.title }))}
            aria-label="What is shown"
          />
        )}
      </div>
      {view && <Panels key={view.name} panels={view.panels} own={own} />}
      {!inViews && page.controls.length > 0 && hand(false)}
      <Panels panels={page.below} own={own} />
    </>
  );
}
