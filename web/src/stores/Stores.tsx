import { Button, Input, Select } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { words, type Schemas } from '../api/client';
import { photoAt } from '../api/photos';
import { useChoices, useDoubted, useShop } from '../api/hooks';
import { WithShop } from '../frame/WithShop';
import { Numeral } from '../parts/Numeral';
import { Picture } from '../parts/Picture';
import { Sign } from '../parts/Verdicts';
import { useOwn } from '../rulebook/useOwn';
import './stores.css';
import { newId } from '../parts/id';

type Item = Schemas['StockItem'];
type Kind = Schemas['StockKind'];

/** What is on hand: by kind, with what it bears and what is left of it, and what is not to be trusted. */
export function Stores() {
  return <WithShop>{shop => <Shelves id={shop} />}</WithShop>;
}

function Shelves({ id }: { id: string }) {
  const shop = useShop(id);
  const kinds = useChoices().data?.parts;
  if (shop.isError && !shop.data)
    return (
      <p className="problem" role="alert">
        {words(shop.error)}
      </p>
    );
  if (!shop.data || !kinds) return <p className="soft">Opening the stores…</p>;
  return <Page key={id} shop={shop.data.shop} machines={shop.data.machines} kinds={kinds} />;
}

function Page({
  shop,
  machines,
  kinds,
}: {
  shop: Schemas['ShopHead'];
  machines: { id: string; name: string }[];
  kinds: Kind[];
}) {
  const list = shop.own.stores ?? [];
  const { keep, fault } = useOwn(shop);
  const [chosen, choose] = useState<Item | null>(null);
  const [looked, look] = useState('');
  const doubts = useDoubted(shop.id, shop.version).data ?? [];
  const wanted = looked.trim().toLowerCase();
  const shown = list.filter(i => !wanted || [i.name, titleOf(kinds, i)].some(t => t.toLowerCase().includes(wanted)));
  const put = async (item: Item) => {
    const there = list.some(i => i.id === item.id);
    const good = await keep({ stores: there ? list.map(i => (i.id === item.id ? item : i)) : [...list, item] });
    if (good) choose(null);
  };
  const take = async (item: Item) => {
    if (await keep({ stores: list.filter(i => i.id !== item.id) })) choose(null);
  };
  return (
    <div className="stores">
      <div className="page-head">
        <h1>Stores</h1>
        <span className="soft lead">what is on hand is taken before anything is bought</span>
        <span className="gap" />
        <Input
          aria-label="Look for a part"
          placeholder="Look for a part"
          value={looked}
          allowClear
          onChange={e => look(e.target.value)}
        />
        <a className="alone" href={`/api/shops/${shop.id}/tables/part`}>
          CSV
        </a>
        <Select
          aria-label="Put a part in"
          value={null}
          placeholder="Put a part in…"
          popupMatchSelectWidth={false}
          options={kinds.map(k => ({ value: k.name, label: k.title }))}
          onChange={kind => choose({ id: newId(), kind: kind ?? 'other', name: '', count: 1 })}
        />
      </div>
      {fault && (
        <p className="problem" role="alert">
          {fault.message} {fault.fields.map(f => f.message).join(' ')}
        </p>
      )}
      <div className={chosen ? 'stores-columns' : ''}>
        <div>
          {list.length === 0 && (
            <p className="panel">
              Nothing is put in yet. Capacitors with what they measure come first: banks are made up of them before
              anything is bought.
            </p>
          )}
          {kinds
            .map(k => ({ kind: k, items: shown.filter(i => i.kind === k.name) }))
            .filter(g => g.items.length > 0)
            .map(({ kind, items }) => (
              <section className="panel" key={kind.name}>
                <h2>{kind.title}</h2>
                <ul className="shelf">
                  {items.map(i => (
                    <Row
                      key={i.id}
                      item={i}
                      kind={kind}
                      doubt={doubts.find(d => d.id === i.id)}
                      machine={machines.find(m => m.id === i.for)?.name}
                      open={() => choose(i)}
                    />
                  ))}
                </ul>
              </section>
            ))}
        </div>
        {chosen && (
          <Form
            key={chosen.id}
            shop={shop.id}
            item={chosen}
            kind={kinds.find(k => k.name === chosen.kind)!}
            machines={machines}
            there={list.some(i => i.id === chosen.id)}
            put={i => void put(i)}
            take={i => void take(i)}
            close={() => choose(null)}
          />
        )}
      </div>
    </div>
  );
}

const titleOf = (kinds: Kind[], i: Item) => kinds.find(k => k.name === i.kind)?.title ?? '';

/** A part: how many, what it is, what it bears, and what is said against it. */
function Row({
  item,
  kind,
  doubt,
  machine,
  open,
}: {
  item: Item;
  kind: Kind;
  doubt?: Schemas['Doubted'];
  machine?: string;
  open: () => void;
}) {
  return (
    <li className={doubt?.severity ?? ''}>
      <span className="count figures">
        {item.count}
        {kind.unit && ` ${kind.unit}`}
      </span>
      <button type="button" className="to-place" onClick={open}>
        {item.name || kind.title}
      </button>
      <span className="what">
        {item.photo && <img className="likeness" src={photoAt(item.photo)} alt="" loading="lazy" />}
        {kind.fields
          .map(f => ({ f, value: item[f.name as keyof Item] }))
          .filter(({ value }) => value !== undefined && value !== 0 && value !== '')
          .map(({ f, value }) => (
            <span key={f.name}>
              <span className="soft">{f.title}</span>{' '}
              <b className={f.kind === 'number' ? 'figures' : ''}>
                {f.choices.find(c => c.value === value)?.title ?? String(value)}
                {f.unit && ` ${f.unit}`}
              </b>
            </span>
          ))}
        {item.for && <span className="reserved">for {machine ?? item.for}</span>}
      </span>
      {doubt && (
        <span className="doubt">
          <Sign severity={doubt.severity} size={16} /> {doubt.says}
        </span>
      )}
    </li>
  );
}

/** The fields of a part. */
function Form({
  shop,
  item,
  kind,
  machines,
  there,
  put,
  take,
  close,
}: {
  shop: string;
  item: Item;
  kind: Kind;
  machines: { id: string; name: string }[];
  there: boolean;
  put: (item: Item) => void;
  take: (item: Item) => void;
  close: () => void;
}) {
  const [own, setOwn] = useState(item);
  const first = useRef<HTMLHeadingElement>(null);
  useEffect(() => first.current?.focus(), []);
  const set = (change: Partial<Item>) => setOwn(o => ({ ...o, ...change }));
  return (
    <section className="panel thing" aria-labelledby="part-title">
      <header>
        <h2 id="part-title" tabIndex={-1} ref={first}>
          {kind.title}
        </h2>
        <Button size="small" type="text" onClick={close} aria-label="Close">
          ×
        </Button>
      </header>
      <div className="thing-fields">
        <div className="labelled">
          <label htmlFor="part-name">Name, as it is marked</label>
          <Input id="part-name" value={own.name} maxLength={80} onChange={e => set({ name: e.target.value })} />
        </div>
        <div className="labelled half">
          <label>How many</label>
          <Numeral
            keep={`stores.${item.id}.count`}
            label="How many"
            value={own.count}
            from={0}
            unit={kind.unit}
            change={v => set({ count: v ?? 0 })}
          />
        </div>
        {kind.fields.map(f => (
          <div className={f.kind === 'text' ? 'labelled' : 'labelled half'} key={f.name}>
            <label htmlFor={`part-${f.name}`}>{f.title}</label>
            {f.kind === 'number' && (
              <Numeral
                keep={`stores.${item.id}.${f.name}`}
                label={f.title}
                value={(own[f.name as keyof Item] as number) || null}
                from={0}
                unit={f.unit}
                change={v => set({ [f.name]: v ?? 0 })}
              />
            )}
            {f.kind === 'choice' && (
              <Select
                id={`part-${f.name}`}
                value={String(own[f.name as keyof Item] ?? '')}
                options={f.choices.map(c => ({ value: c.value, label: c.title }))}
                onChange={v => set({ [f.name]: v })}
              />
            )}
            {(f.kind === 'text' || f.kind === 'date') && (
              <Input
                id={`part-${f.name}`}
                type={f.kind === 'date' ? 'date' : 'text'}
                maxLength={80}
                value={String(own[f.name as keyof Item] ?? '')}
                onChange={e => set({ [f.name]: e.target.value })}
              />
            )}
          </div>
        ))}
        <Picture id="part-photo" alt="The part" shop={shop} photo={own.photo ?? ''} change={photo => set({ photo })} />
        <div className="labelled">
          <label htmlFor="part-for">Reserved for</label>
          <Select
            id="part-for"
            value={own.for ?? ''}
            options={[
              { value: '', label: 'nothing: it is free' },
              ...machines.map(m => ({ value: m.id, label: m.name })),
            ]}
            onChange={v => set({ for: v })}
          />
        </div>
      </div>
      <Button type="primary" onClick={() => put(own)}>
        {there ? 'Keep it so' : 'Put it in'}
      </Button>
      {there && (
        <Button danger onClick={() => take(item)}>
          Take it out
        </Button>
      )}
    </section>
  );
}
