import { AutoComplete, Input, Modal, type RefSelectProps } from 'antd';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { words, type Schemas } from '../api/client';
import { readAgain, readFloor, takePlate, useRulebook } from '../api/hooks';
import { keys } from '../api/keys';
import { useCurrentShop } from './shop';

/** The keys of each place, beside those that hold everywhere. */
const everywhere: [string, string][] = [
  ['/', 'find a machine, a circuit, a rule or a place; a pasted plate becomes a machine'],
  ['?', 'these keys'],
  ['Tab', 'from one thing to the next'],
];
const here: [RegExp, string, [string, string][]][] = [
  [
    /^\/$/,
    'Floor',
    [
      ['Enter', 'on a name: its fields, what hangs it elsewhere, what the code says'],
      ['Space', 'on a switch: on or off'],
      ['← →', 'on a load: less or more'],
      ['Esc', 'close what is open at the right'],
    ],
  ],
  [/^\/machines\/./, 'A machine’s card', [['Ctrl Z', 'take the last change back']]],
];

/** Whether keys are typed into something. */
const typing = (e: KeyboardEvent) => {
  const at = e.target as HTMLElement;
  return at.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(at.tagName);
};

/** A text that may be a plate; the server knows. */
const maybePlate = (text: string) => text.length >= 10 && (text.match(/\d/g)?.length ?? 0) >= 4;

/** What of a floor is found: the rest of it may change without anything here. */
const found = ({ spare, site }: Schemas['FloorPage']) => ({
  spare,
  circuits: site.circuits,
  converters: site.converters,
  loads: site.loads,
});

/** One box that finds everything, from anywhere, and the list of keys. */
export function Find() {
  const { current } = useCurrentShop();
  const [wanted, setWanted] = useState(false);
  const [text, setText] = useState('');
  const [fault, setFault] = useState('');
  const [help, setHelp] = useState(false);
  const box = useRef<RefSelectProps>(null);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const queries = useQueryClient();
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e)) return;
      if (e.key === '/') {
        e.preventDefault();
        box.current?.focus();
      } else if (e.key === '?') setHelp(true);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
  const floor = useQuery({
    queryKey: keys.floor(current?.id ?? ''),
    queryFn: () => readFloor(current!.id),
    enabled: wanted && !!current,
    select: found,
  });
  const book = useRulebook(wanted);

  const page = floor.data;
  const all: { value: string; label: string; kind: string }[] = [
    ...(page?.spare ?? []).map(m => ({ value: `/machines/${m.name}/plate`, label: m.title, kind: 'machine' })),
    ...(page?.circuits ?? []).map(c => ({ value: `/?at=${c.id}`, label: c.name, kind: 'circuit' })),
    ...(page?.converters ?? []).map(c => ({ value: `/?at=${c.id}`, label: c.name, kind: 'converter' })),
    ...(page?.loads ?? []).map(l => ({ value: `/?at=${l.id}`, label: l.name, kind: 'load' })),
    ...[
      ['/', 'Floor'],
      ['/machines', 'Machines'],
      ['/rulebook', 'Rulebook'],
      ['/day', 'Day card'],
    ].map(([value, label]) => ({ value: value!, label: label!, kind: 'place' })),
    ...(book.data?.rules ?? []).map(r => ({
      value: `/rulebook?find=${encodeURIComponent(r.id)}`,
      label: r.title,
      kind: 'rule',
    })),
  ];
  const sought = text.trim().toLowerCase();
  const hits = sought
    ? all.filter(o => o.label.toLowerCase().includes(sought)).slice(0, 10)
    : all.filter(o => o.kind !== 'rule').slice(0, 10);
  const options = [
    ...(maybePlate(text) && current
      ? [{ value: 'plate', label: 'Take it as the plate of a new machine', kind: 'new' }]
      : []),
    ...hits,
  ];
  const go = async (value: string) => {
    setFault('');
    if (value === 'plate') {
      try {
        const made = await takePlate(current!.id, text);
        await readAgain(queries);
        navigate(`/machines/${made.id}/plate`);
      } catch (e) {
        setFault(words(e));
        return;
      }
    } else navigate(value);
    setText('');
    box.current?.blur();
  };
  const place = here.find(([path]) => path.test(pathname));
  return (
    <>
      <AutoComplete
        ref={box}
        className="find"
        value={text}
        onFocus={() => setWanted(true)}
        onSelect={value => void go(value)}
        options={options.map(o => ({
          value: o.value,
          label: (
            <span className="found">
              <span>{o.label}</span> <span className="soft">{o.kind}</span>
            </span>
          ),
        }))}
        defaultActiveFirstOption
        popupMatchSelectWidth={360}
        notFoundContent={wanted ? 'Nothing here is called so.' : null}
        showSearch={{ filterOption: false, onSearch: t => setText(t.replace(/^\//, '')) }}
      >
        <Input
          aria-label="Find a machine, or paste a plate"
          placeholder="Find, or paste a plate"
          suffix={<kbd>/</kbd>}
          maxLength={4000}
          status={fault ? 'error' : undefined}
        />
      </AutoComplete>
      {fault && (
        <span className="problem" role="alert">
          {fault}
        </span>
      )}
      <Modal open={help} title="Keys" footer={null} onCancel={() => setHelp(false)}>
        {[['Everywhere', everywhere] as const, ...(place ? [[place[1], place[2]] as const] : [])].map(
          ([title, list]) => (
            <section key={title}>
              <h2>{title}</h2>
              <dl className="keys-list">
                {list.map(([key, does]) => (
                  <div key={key}>
                    <dt>
                      <kbd>{key}</kbd>
                    </dt>
                    <dd>{does}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ),
        )}
      </Modal>
    </>
  );
}
