import { Button, Input } from 'antd';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { ColumnTable } from '../sheet/ColumnTable';
import { useOwn } from './useOwn';

type Figure = NonNullable<Schemas['ShopHead']['own']['code']>[number];
type Place = Omit<Figure, 'value'>;

/** Tables of more columns than this have room for two. */
const wide = 6;

const same = (a: Place, b: Place) => a.table === b.table && a.row === b.row && a.column === b.column;

/** The tables that answers rest on; in those of a code the shop may put figures of its own. */
export function Tables({ shop, tables }: { shop: Schemas['ShopHead']; tables: Schemas['RuleTable'][] }) {
  const { keep, fault } = useOwn(shop);
  const [open, setOpen] = useState<Place | null>(null);
  const own = shop.own.code ?? [];
  const put = async (at: Place, text: string) => {
    const rest = own.filter(f => !same(f, at));
    const value = Number(text.trim().replace(',', '.'));
    if (await keep({ code: text.trim() === '' ? rest : [...rest, { ...at, value }] })) setOpen(null);
  };
  return (
    <>
      <p className="soft tables-say">
        Tables of codes are those of the edition named. A figure that can be pressed can be replaced where your code has
        another; every answer then goes by yours and says so. Local code has the last word.
      </p>
      <div className="tables">
        {tables.map(t => {
          const name = t.name ?? '';
          const mine = own.filter(f => name && f.table === name);
          return (
            <section className={t.head.length > wide ? 'panel wide' : 'panel'} key={t.title}>
              <ColumnTable
                table={t}
                cell={(row, column, text) => {
                  const at = { table: name, row, column };
                  if (!t.open?.includes(column) || !(Number(text) > 0)) return text;
                  const kept = mine.find(f => same(f, at));
                  return open && same(open, at) ? (
                    <OwnFigure
                      at={at}
                      value={kept?.value}
                      printed={text}
                      says={fault?.fields[0]?.message ?? fault?.message}
                      put={typed => void put(at, typed)}
                      leave={() => setOpen(null)}
                    />
                  ) : (
                    <button
                      type="button"
                      className={kept ? 'own-figure own' : 'own-figure'}
                      aria-label={`${row}, ${column}: ${kept ? `${kept.value}, printed ${text}` : text}`}
                      onClick={() => setOpen(at)}
                    >
                      {kept ? kept.value : text}
                    </button>
                  );
                }}
              />
              {mine.length > 0 && (
                <p className="own-say">
                  {mine.length === 1 ? 'One figure is' : `${mine.length} figures are`} {shop.name}’s own.{' '}
                  <Button size="small" onClick={() => void keep({ code: own.filter(f => f.table !== name) })}>
                    All as printed
                  </Button>
                </p>
              )}
            </section>
          );
        })}
      </div>
    </>
  );
}

/** A figure while it is replaced: Enter keeps it, Escape leaves it, none puts back what is printed. */
function OwnFigure({
  at,
  value,
  printed,
  says,
  put,
  leave,
}: {
  at: Place;
  value: number | undefined;
  printed: string;
  says: string | undefined;
  put: (text: string) => void;
  leave: () => void;
}) {
  const [text, setText] = useState(value === undefined ? '' : String(value));
  const bad = text.trim() !== '' && !(Number(text.trim().replace(',', '.')) > 0);
  const problem = bad ? 'A number above zero, or nothing for what is printed.' : says;
  return (
    <span className="own-edit">
      <Input
        className="numeral"
        autoFocus
        size="small"
        inputMode="decimal"
        maxLength={12}
        value={text}
        placeholder={printed}
        status={problem ? 'error' : ''}
        aria-label={`${at.row}, ${at.column}, printed ${printed}`}
        onChange={e => setText(e.target.value)}
        onKeyDown={e => {
          if (e.key === 'Escape') leave();
          if (e.key === 'Enter' && !bad) put(text);
        }}
        onBlur={() => {
          if (text.trim() === (value === undefined ? '' : String(value))) leave();
          else if (!bad) put(text);
        }}
      />
      {problem && (
        <span className="problem" role="alert">
          {problem}
        </span>
      )}
    </span>
  );
}
