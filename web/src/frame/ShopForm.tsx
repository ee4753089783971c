import { Button, Input, InputNumber, Select } from 'antd';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Problem, words, type Schemas, type Supply } from '../api/client';
import { testSupply, useChoices } from '../api/hooks';
import './shopform.css';

/** Name and supply of a shop. */
export function ShopForm({
  shop,
  action,
  onSave,
}: {
  shop?: Schemas['ShopHead'];
  action: string;
  onSave: (value: { name: string; supply: Supply }) => Promise<void>;
}) {
  const choices = useChoices();
  const [name, setName] = useState(shop?.name ?? '');
  const [supply, setSupply] = useState<Supply>(
    shop?.supply ?? {
      kind: 'split-phase',
      volts: 240,
      hertz: 60,
      main_amps: 100,
      class: 'usual',
      resistance_ohm: 0,
      reactance_ohm: 0,
    },
  );
  const [fault, setFault] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const set = (patch: Partial<Supply>) => setSupply(s => ({ ...s, ...patch }));
  const problem = (field: string) =>
    fault instanceof Problem ? fault.fields.find(f => f.location === `body.${field}`)?.message : undefined;
  const named = fault instanceof Problem && fault.fields.length > 0; // said beside the fields
  const kinds = choices.data?.supplies ?? [];
  const classes = choices.data?.classes ?? [];
  const earthing = choices.data?.earthings.find(e => e.name === supply.earthing);
  const wires = choices.data?.wires.reduce((a, b) =>
    Math.abs(b.hertz - supply.hertz) < Math.abs(a.hertz - supply.hertz) ? b : a,
  );

  async function send(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    setFault(null);
    try {
      await onSave({ name, supply });
    } catch (e) {
      setFault(e);
    } finally {
      setBusy(false);
    }
  }
  const amount = (
    field:
      'volts' | 'hertz' | 'main_amps' | 'resistance_ohm' | 'reactance_ohm' | 'kva' | 'impedance_percent' | 'wire_metre',
    label: string,
    unit: string,
    per = 1,
  ) => (
    <Labelled id={`supply-${field}`} label={label} problem={problem(`supply.${field}`)}>
      <InputNumber
        id={`supply-${field}`}
        value={supply[field] === undefined ? null : Number((supply[field] * per).toPrecision(5))}
        suffix={unit}
        inputMode="decimal"
        parser={text => Number((text ?? '').replace(',', '.'))}
        onChange={v => set({ [field]: (v ?? 0) / per })}
        status={problem(`supply.${field}`) ? 'error' : undefined}
      />
    </Labelled>
  );
  return (
    <form className="shop-form" onSubmit={send}>
      <Labelled id="shop-name" label="Name of the shop" problem={problem('name')} wide>
        <Input
          id="shop-name"
          autoFocus
          value={name}
          maxLength={80}
          onChange={e => setName(e.target.value)}
          status={problem('name') ? 'error' : undefined}
        />
      </Labelled>
      <Labelled id="supply-kind" label="What comes in" wide>
        <Select
          id="supply-kind"
          value={supply.kind}
          options={kinds.map(k => ({ value: k.name, label: k.title }))}
          onChange={kind => {
            const known = kinds.find(k => k.name === kind);
            set(known ? { kind, volts: known.volts, hertz: known.hertz } : { kind });
          }}
        />
        <p className="soft">{kinds.find(k => k.name === supply.kind)?.earth}</p>
      </Labelled>
      {amount('volts', 'Volts between the two lines, measured', 'V')}
      {amount('hertz', 'Frequency', 'Hz')}
      {amount('main_amps', 'Main breaker', 'A')}
      <Labelled id="supply-class" label="How stiff it is">
        <Select
          id="supply-class"
          value={supply.class}
          options={[...classes.map(c => ({ value: c.name, label: c.title })), { value: 'own', label: 'Own ohms' }]}
          onChange={name => set({ class: name })}
        />
      </Labelled>
      <Labelled id="supply-earthing" label="How it is earthed">
        <Select
          id="supply-earthing"
          value={supply.earthing ?? ''}
          options={[
            { value: '', label: 'not looked at' },
            ...(choices.data?.earthings ?? []).map(e => ({ value: e.name, label: e.title })),
          ]}
          onChange={earthing => set({ earthing: earthing as Supply['earthing'] })}
        />
        {earthing && <p className="soft">{earthing.says}</p>}
      </Labelled>
      {supply.class === 'transformer' && (
        <>
          {amount('kva', 'Transformer or generator', 'kVA')}
          {amount('impedance_percent', 'Its impedance, empty for a usual one', '%')}
          <Labelled id="supply-wire" label="Wire from there" problem={problem('supply.wire_size')}>
            <Select
              id="supply-wire"
              value={supply.wire_size ?? ''}
              options={[
                { value: '', label: 'not counted' },
                ...(wires?.sizes ?? []).map(s => ({ value: s, label: s })),
              ]}
              onChange={size => set({ wire_size: size })}
            />
          </Labelled>
          {amount('wire_metre', 'Its length, one way', wires?.unit ?? 'm', wires?.per_metre ?? 1)}
        </>
      )}
      {supply.class === 'own' && amount('resistance_ohm', 'Loop resistance', 'Ω')}
      {supply.class === 'own' && amount('reactance_ohm', 'Loop reactance', 'Ω')}
      {supply.class === 'own' && <ByHeater volts={supply.volts} told={set} />}
      {fault !== null && (
        <p className={named ? 'visually-hidden' : 'problem'} role="alert">
          {words(fault)}
        </p>
      )}
      <div className="wide">
        <Button type="primary" htmlType="submit" loading={busy}>
          {action}
        </Button>
      </div>
    </form>
  );
}

const readings = [
  { field: 'idle_volts', label: 'Volts, nothing on', unit: 'V' },
  { field: 'loaded_volts', label: 'Volts, heater on', unit: 'V' },
  { field: 'amps', label: 'The heater draws', unit: 'A' },
] as const;

/** The loop's ohms worked out from a meter's readings without and with a heater on. */
function ByHeater({ volts, told }: { volts: number; told: (ohms: Partial<Supply>) => void }) {
  const [test, setTest] = useState<Partial<Schemas['SupplyTest']>>({});
  const [says, setSays] = useState('');
  const [fault, setFault] = useState<unknown>(null);
  const problem = (field: string) =>
    fault instanceof Problem ? fault.fields.find(f => f.location === `body.${field}`)?.message : undefined;
  const { idle_volts, loaded_volts, amps } = test;
  const whole = idle_volts && loaded_volts && amps ? { idle_volts, loaded_volts, amps } : null;
  async function work() {
    if (!whole) return;
    setFault(null);
    setSays('');
    try {
      const tested = await testSupply(whole);
      told({ resistance_ohm: tested.resistance_ohm, reactance_ohm: tested.reactance_ohm });
      setSays(tested.says);
    } catch (e) {
      setFault(e);
    }
  }
  return (
    <fieldset className="by-heater wide">
      <legend>By a heater: volts at the machines, without and with it</legend>
      {readings.map(({ field, label, unit }) => (
        <Labelled key={field} id={`test-${field}`} label={label} problem={problem(field)}>
          <InputNumber
            id={`test-${field}`}
            value={test[field] ?? null}
            suffix={unit}
            inputMode="decimal"
            placeholder={field === 'idle_volts' ? String(volts) : undefined}
            parser={text => Number((text ?? '').replace(',', '.'))}
            onChange={v => setTest(t => ({ ...t, [field]: v ?? undefined }))}
            status={problem(field) ? 'error' : undefined}
          />
        </Labelled>
      ))}
      <Button onClick={work} disabled={!whole}>
        Work it out
      </Button>
      {says && <p role="status">{says}</p>}
      {fault !== null && (
        <p className={fault instanceof Problem && fault.fields.length > 0 ? 'visually-hidden' : 'problem'} role="alert">
          {words(fault)}
        </p>
      )}
    </fieldset>
  );
}

function Labelled({
  id,
  label,
  problem,
  wide,
  children,
}: {
  id: string;
  label: string;
  problem?: string;
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <div className={wide ? 'labelled wide' : 'labelled'}>
      <label htmlFor={id}>{label}</label>
      {children}
      {problem && <p className="problem">{problem}</p>}
    </div>
  );
}
