import { Alert, Button, Segmented } from 'antd';
import { startTransition, useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { words, type Machine, type Page, type Verdict, type Working } from '../api/client';
import { useChoices, useMachine, useOff, useWay } from '../api/hooks';
import { chooseShop } from '../frame/shop';
import { tally, Verdicts } from '../parts/Verdicts';
import { Workings } from '../parts/Workings';
import { useDraft } from './draft';
import { FirstRunStep } from './FirstRunStep';
import { LeadsStep } from './LeadsStep';
import { MachineHead } from './MachineHead';
import { PlateForm } from './PlateForm';
import { PlateStep } from './PlateStep';
import { useTaken } from './way';
import { FaultStep } from './FaultStep';
import { ProveStep } from './ProveStep';
import { RouteStep } from './RouteStep';
import { SettingsStep } from './SettingsStep';
import { CardShop } from './shop';
import { SizeStep } from './SizeStep';
import { WireStep } from './WireStep';
import '../parts/facts.css';
import './card.css';

/** One machine: its plate pinned at the left, the steps in order at the right. */
export function Card() {
  const { machine: id = '' } = useParams();
  const machine = useMachine(id);
  if (machine.isError && !machine.data)
    return (
      <p className="problem" role="alert">
        {words(machine.error)} <Link to="/">Back to Machines</Link>
      </p>
    );
  if (!machine.data) return <p className="soft">Reading the machine…</p>;
  return <Chosen page={machine.data} />;
}

/** The shop of the machine becomes the one that is shown; on another supply every figure is read anew. */
function Chosen({ page }: { page: Machine }) {
  const [query] = useSearchParams();
  const shop = page.shop.id;
  useEffect(() => chooseShop(shop), [shop]);
  const motor = page.motors.find(m => m.id === query.get('motor')) ?? page.motors[0];
  return motor ? (
    <CardShop.Provider value={page.shop}>
      <Bench key={`${motor.id} ${page.shop.version}`} page={page} motor={motor} />
    </CardShop.Provider>
  ) : (
    <MachineHead page={page} motor="" />
  );
}

const titles = {
  plate: 'Plate',
  leads: 'Leads',
  route: 'Route',
  size: 'Size',
  wire: 'Wire',
  settings: 'Settings',
  run: 'First run',
  prove: 'Prove',
  fault: 'Fault',
} as const;

/** A step's name with a mark that fills when it is done. */
const stepLabel = (name: keyof typeof titles, done: boolean) => (
  <span className={done ? 'step-mark done' : 'step-mark'}>
    {titles[name]}
    <span className="visually-hidden">{done ? ', done' : ', open'}</span>
  </span>
);

function Bench({ page, motor }: { page: Machine; motor: Machine['motors'][number] }) {
  const { step: named = 'size' } = useParams();
  const step = Object.hasOwn(titles, named) ? named : 'size'; // of a step that there is not
  const navigate = useNavigate();
  const d = useDraft(motor, page.id);
  const reading = d.base.reading;
  const [query, setQuery] = useSearchParams();
  const routes = useChoices().data?.routes;
  const asked = query.get('route');
  const taken = useTaken(d.draft.way);
  const seen = asked !== null && routes?.some(r => r.name === asked) ? asked : taken;
  const look = useCallback(
    (route: string) =>
      setQuery(
        q => {
          q.set('route', route);
          return q;
        },
        { replace: true },
      ),
    [setQuery],
  );
  const stamp = d.base.version - d.base.versions.built; // of what is computed from it
  const way = useWay(motor.id, seen, stamp, reading.sound);
  const whole = reading.sound ? way.data : undefined;
  useEffect(() => {
    document
      .querySelector('.steps .ant-segmented-item-selected')
      ?.scrollIntoView({ inline: 'center', block: 'nearest' });
  }, [step]);
  // What is said of what is tried comes after the pictures of it.
  const [tried, setTried] = useState<{ of: Page; verdicts: Verdict[] } | null>(null);
  const tell = useCallback((of: Page, said: Verdict[]) => startTransition(() => setTried({ of, verdicts: said })), []);
  const said = tried && tried.of === whole ? tried.verdicts : whole?.verdicts;
  const off = useOff(motor.id, seen, stamp, reading.sound).data;
  // What is said of a way is said where it is looked at, or once it is taken.
  const chosen = d.draft.way.route !== '';
  const ofWay = chosen || step === 'size';
  const verdicts = useMemo(
    () =>
      [...reading.verdicts, ...(ofWay ? [...(off?.verdicts ?? []), ...(said ?? [])] : [])]
        .filter(v => step !== 'wire' || !v.standing) // that step lists what always holds
        .sort((a, b) => rank(a.severity) - rank(b.severity)),
    [reading.verdicts, off, said, ofWay, step],
  );
  const blank = Object.values(d.draft.plate).every(text => text === '');
  const id = motor.id;
  const { sound } = reading;
  const { plate, leads, route: routed, size: done, wire } = d.base.progress;
  const steps = useMemo(
    () => [
      { value: 'plate', label: stepLabel('plate', plate) },
      { value: 'leads', label: stepLabel('leads', leads) },
      { value: 'route', label: stepLabel('route', routed) },
      { value: 'size', label: stepLabel('size', done) },
      { value: 'wire', label: stepLabel('wire', wire) },
      { value: 'settings', label: 'Settings' },
      { value: 'run', label: 'First run' },
      { value: 'prove', label: 'Prove' },
      { value: 'fault', label: 'Fault' },
    ],
    [plate, leads, routed, done, wire],
  );
  const head = useMemo(
    () => (
      <MachineHead page={page} motor={id}>
        <Segmented
          className="steps"
          options={steps}
          value={step}
          onChange={to => navigate(`/machines/${page.id}/${to}?motor=${id}`)}
          aria-label="Steps"
        />
        {sound && (
          <Button type="primary" onClick={() => navigate(`/motors/${id}/sheet`)}>
            Job sheet
          </Button>
        )}
      </MachineHead>
    ),
    [page, id, step, steps, sound, navigate],
  );
  return (
    <Workings list={whole?.workings ?? none} motor={motor.id}>
      {head}
      {d.fault?.status === 409 && (
        <Alert
          type="warning"
          showIcon
          className="conflict"
          title={d.fault.message}
          description="What you typed is still here, not saved."
          action={
            <>
              <Button onClick={() => void d.takeTheirs()}>Show the other’s</Button>{' '}
              <Button type="primary" onClick={() => void d.keepMine()}>
                Save mine over it
              </Button>
            </>
          }
        />
      )}
      {d.fault && d.fault.status !== 409 && d.fault.status !== 0 && d.fault.fields.length === 0 && (
        <Alert type="error" title={d.fault.message} />
      )}
      <div className={`bench step-${step}${reading.sound ? '' : ' blank'}`}>
        <aside className="pinned">
          <PlateForm
            plate={d.draft.plate}
            hints={reading.hints}
            problems={d.fields}
            focus={blank}
            onRest={d.rest}
            set={d.set}
          />
          <p className="standing-caution">
            Mains voltage. Isolate, lock, prove dead, discharge every capacitor. Local code has the last word.
          </p>
          {verdicts.length > 0 && (
            <section aria-label="Verdicts" className="verdict-list">
              <h2 className="aside-head">
                Verdicts <span className="soft">{tally(verdicts)}</span>
              </h2>
              <Verdicts verdicts={verdicts} fold />
            </section>
          )}
        </aside>
        <div className="step">
          {step === 'plate' && sound && !chosen && (
            <section className="panel go-on">
              <p>The plate gives an answer; whatever is added sharpens it.</p>
              <Button type="primary" onClick={() => navigate(`/machines/${page.id}/route?motor=${id}`)}>
                Choose its route
              </Button>
            </section>
          )}
          {step === 'plate' && (
            <PlateStep
              motor={motor.id}
              stamp={stamp}
              draft={d.draft}
              reading={reading}
              problems={d.fields}
              set={d.set}
            />
          )}
          {step === 'leads' && <LeadsStep motor={motor.id} draft={d.draft} stamp={stamp} set={d.set} />}
          {step === 'route' && (
            <RouteStep
              motor={motor.id}
              draft={d.draft}
              sound={reading.sound}
              stamp={stamp}
              set={d.set}
              main={page.shop.supply.main_amps}
            />
          )}
          {step === 'size' && (
            <SizeStep
              motor={motor.id}
              seen={seen}
              look={look}
              whole={whole}
              fault={way.isError ? words(way.error) : ''}
              tell={tell}
              reading={reading}
              problems={d.fields}
              blank={blank}
              draft={d.draft}
              set={d.set}
              stamp={stamp}
              off={off?.says ?? ''}
            />
          )}
          {step === 'settings' && (
            <SettingsStep motor={motor.id} draft={d.draft} sound={reading.sound} stamp={stamp} set={d.set} />
          )}
          {step === 'run' && <FirstRunStep motor={motor.id} sound={reading.sound} stamp={stamp} />}
          {step === 'prove' && <ProveStep motor={motor.id} sound={reading.sound} stamp={stamp} />}
          {step === 'fault' && <FaultStep key={motor.id} motor={motor.id} sound={reading.sound} stamp={stamp} />}
          {step === 'wire' && (
            <WireStep machine={page.id} motor={motor} draft={d.draft} sound={reading.sound} stamp={stamp} set={d.set} />
          )}
        </div>
      </div>
    </Workings>
  );
}

const none: Working[] = [];
const rank = (severity: string) => ['stop', 'caution', 'note'].indexOf(severity);
