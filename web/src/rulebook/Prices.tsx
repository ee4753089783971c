import { useQueryClient } from '@tanstack/react-query';
import { Button, Form, Input } from 'antd';
import { useState } from 'react';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at, readAgain } from '../api/hooks';
import { say } from '../frame/saving';
import { useKept } from '../parts/kept';
import { number } from '../parts/number';

type Group = 'prices' | 'weights';
type Typed = Record<Group, Record<string, string>>;

const figure = (text: string) => (text.trim() === '' ? NaN : Number(text.trim().replace(',', '.')));
/** Every field of a list with its value; one that is left out is nothing. */
const whole = (fields: { name: string }[], values: object) =>
  Object.fromEntries(fields.map(f => [f.name, (values as Record<string, number>)[f.name] ?? 0]));
const texts = (values: object) => Object.fromEntries(Object.entries(values).map(([k, v]) => [k, number(v as number)]));

/** The shop's own prices, and what counts beside money for the choice of a way; kept together. */
export function Prices({ shop, book }: { shop: Schemas['ShopHead']; book: Schemas['Rulebook'] }) {
  const prices = whole(book.prices, shop.prices);
  const weights = whole(book.weights, shop.weights);
  const saved: Typed = { prices: texts(prices), weights: texts(weights) };
  const [typed, setTyped, settle] = useKept<Typed>(`prices.${shop.id}`, saved);
  const [fault, setFault] = useState('');
  const [form] = Form.useForm<Typed>();
  const queries = useQueryClient();
  const changed = JSON.stringify(typed) !== JSON.stringify(saved);

  /** What was typed, in the place of what is kept; a figure that was left alone keeps its every digit. */
  const read = <T extends object>(group: Group, kept: T): T =>
    Object.fromEntries(
      Object.entries(kept).map(([k, v]) => [
        k,
        typed[group][k] === saved[group][k] ? (v as number) : figure(typed[group][k] ?? ''),
      ]),
    ) as T;
  const keep = async () => {
    const body = {
      version: shop.version,
      prices: read('prices', prices) as typeof shop.prices,
      weights: read('weights', weights) as typeof shop.weights,
    };
    try {
      await ask(client.PUT('/shops/{id}/prices', { ...at(shop.id), body }));
      setFault('');
      settle();
      say({ text: 'Saved', bad: false });
      await readAgain(queries);
    } catch (e) {
      setFault(words(e));
      if (e instanceof Problem)
        form.setFields(
          e.fields.map(f => ({ name: f.location.split('.').slice(1) as [Group, string], errors: [f.message] })),
        );
    }
  };
  const field = (group: Group, name: string, title: string, unit: string, why?: string) => (
    <Form.Item
      key={name}
      name={[group, name]}
      label={
        <span>
          {title}
          {unit && <span className="soft">, {unit}</span>}
        </span>
      }
      extra={why}
      rules={[
        {
          validator: (_, text: string) =>
            Number.isFinite(figure(text))
              ? Promise.resolve()
              : Promise.reject(
                  new Error(`${title} is a number; until then ${saved[group][name] ?? 'the usual one'} counts.`),
                ),
        },
      ]}
    >
      <Input className="numeral" aria-label={title} inputMode="decimal" maxLength={20} />
    </Form.Item>
  );
  return (
    <Form
      form={form}
      layout="vertical"
      requiredMark={false}
      initialValues={typed}
      onValuesChange={(_, all: Typed) => setTyped(all)}
      onFinish={() => void keep()}
      autoComplete="off"
    >
      <section className="panel" aria-label="Prices">
        <header>
          <h2>Prices of {shop.name}</h2>
          <span className={shop.sample_prices ? 'sample' : 'soft'}>
            {shop.sample_prices ? 'samples, made up: put your own' : 'its own'}
          </span>
        </header>
        <div className="prices">{book.prices.map(f => field('prices', f.name, f.title, f.unit))}</div>
        <h2>What counts beside money</h2>
        <p className="soft">
          In hours of work that you would give in a year to be rid of it, at the price of an hour above: so it weighs
          the same in every currency.
        </p>
        <div className="prices weights">{book.weights.map(f => field('weights', f.name, f.title, 'h', f.why))}</div>
        {fault && (
          <p className="problem" role="alert">
            {fault}
          </p>
        )}
        <p className="keep">
          <Button type="primary" htmlType="submit" disabled={!changed}>
            Keep these prices
          </Button>{' '}
          {changed && <span className="soft">not kept yet</span>}
        </p>
      </section>
    </Form>
  );
}
