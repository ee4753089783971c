import { Button, Input, InputNumber, Radio } from 'antd';
import { useCallback, useState, type FormEvent } from 'react';
import { useNavigate } from 'react-router';
import { Problem, words, type Supply } from '../api/client';
import { addMachine, addShop, useChange, useChoices } from '../api/hooks';
import { chooseShop } from './shop';
import './first.css';

/** The time zone that this device keeps: where it is is guessed from it. */
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The first of all pages: where the shop is, what comes in there, and whose it is. The rest has its usual value. */
export function FirstShop() {
  const choices = useChoices().data;
  const navigate = useNavigate();
  const make = useChange(addShop);
  const add = useChange(({ shop, name }: { shop: string; name: string }) => addMachine(shop, name));
  const [place, setPlace] = useState('');
  const [chosen, setChosen] = useState('');
  const [amps, setAmps] = useState(100);
  const [name, setName] = useState('');
  const [fault, setFault] = useState<unknown>(null);
  // The first question has the keyboard; arrow keys choose among its answers.
  const ask = useCallback(
    (form: HTMLFormElement | null) => form?.querySelector<HTMLElement>('input:checked')?.focus(),
    [],
  );
  if (!choices) return null;
  const region = choices.regions.find(r => r.name === place) ?? choices.regions.find(r => zone.startsWith(r.zones))!;
  const kinds = region.kinds.flatMap(k => choices.supplies.filter(s => s.name === k));
  const kind = kinds.find(k => k.name === chosen) ?? kinds[0]!;
  const usual = region.volts > 0 && kind.hertz !== region.hertz ? region : kind;
  const problem = (field: string) =>
    fault instanceof Problem ? fault.fields.find(f => f.location === `body.${field}`)?.message : undefined;
  const begin = async (plate: boolean) => {
    setFault(null);
    try {
      const shop = await make.mutateAsync({
        name,
        supply: {
          kind: kind.name as Supply['kind'],
          volts: usual.volts,
          hertz: usual.hertz,
          main_amps: amps,
          class: 'usual',
          resistance_ohm: 0,
          reactance_ohm: 0,
        },
        version: 0,
      });
      chooseShop(shop.id);
      if (plate) {
        const machine = await add.mutateAsync({ shop: shop.id, name: 'First machine' });
        navigate(`/machines/${machine.id}/plate`);
      }
    } catch (e) {
      setFault(e);
    }
  };
  const send = (event: FormEvent) => {
    event.preventDefault();
    void begin(true);
  };
  return (
    <section className="panel first-shop">
      <h1>Your shop first</h1>
      <p>Three things, and then the plate of the first motor. Every answer rests on them; all can be changed later.</p>
      <form onSubmit={send} ref={ask}>
        <h2 id="first-where">Where is it?</h2>
        <Radio.Group
          aria-labelledby="first-where"
          value={region.name}
          onChange={e => setPlace(e.target.value as string)}
          options={choices.regions.map(r => ({
            value: r.name,
            label: (
              <>
                {r.title} <span className="soft">{r.says}</span>
              </>
            ),
          }))}
        />
        <h2 id="first-service">What comes in?</h2>
        <Radio.Group
          aria-labelledby="first-service"
          value={kind.name}
          onChange={e => setChosen(e.target.value as string)}
          options={kinds.map(k => ({
            value: k.name,
            label: (
              <>
                {k.title} <span className="soft">{k.earth}</span>
              </>
            ),
          }))}
        />
        <label htmlFor="first-amps">Main breaker</label>
        <InputNumber
          id="first-amps"
          value={amps}
          suffix="A"
          inputMode="decimal"
          status={problem('supply.main_amps') ? 'error' : undefined}
          onChange={v => setAmps(v ?? 0)}
        />
        {problem('supply.main_amps') && <p className="problem">{problem('supply.main_amps')}</p>}
        <h2>
          <label htmlFor="shop-name">Whose is it?</label>
        </h2>
        <Input
          id="shop-name"
          placeholder="Name of the shop"
          value={name}
          maxLength={80}
          status={problem('name') ? 'error' : undefined}
          onChange={e => setName(e.target.value)}
        />
        {problem('name') && <p className="problem">{problem('name')}</p>}
        {fault !== null && !(fault instanceof Problem && fault.fields.length > 0) && (
          <p className="problem" role="alert">
            {words(fault)}
          </p>
        )}
        <div className="first-end">
          <Button type="primary" htmlType="submit" loading={make.isPending || add.isPending}>
            On to the first plate
          </Button>
          <Button onClick={() => void begin(false)}>Make the shop alone</Button>
        </div>
      </form>
    </section>
  );
}
