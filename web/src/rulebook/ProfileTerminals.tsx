import { Button, Checkbox, Input, Select } from 'antd';
import type { Schemas } from '../api/client';

type Profile = Schemas['DriveProfile'];
type Link = Schemas['DriveLink'];

/** What a drive's terminals are marked with, and the bridges between them; one that ships is only read. */
export function ProfileTerminals({
  profile,
  known,
  change,
}: {
  profile: Profile;
  known: Schemas['DriveTerminal'][];
  change?: (patch: Partial<Profile>) => void;
}) {
  const marks = profile.terminals ?? {};
  const links = profile.links ?? [];
  const put = (i: number, patch: Partial<Link>) =>
    change?.({ links: links.map((l, k) => (k === i ? { ...l, ...patch } : l)) });
  const mark = (name: string, value: string) =>
    change?.({
      terminals: Object.fromEntries(
        Object.entries({ ...marks, [name]: value.trim() }).filter(([, written]) => written !== ''),
      ),
    });
  return (
    <>
      <h3>Its terminals, as they are marked</h3>
      <div className="marks">
        {known.map(t => (
          <label key={t.name}>
            {change ? (
              <Input
                aria-label={`Mark of ${t.name}, ${t.title}`}
                value={marks[t.name] ?? ''}
                placeholder={t.name}
                maxLength={12}
                onChange={e => mark(t.name, e.target.value)}
              />
            ) : (
              <b className="figures">{marks[t.name] ?? t.name}</b>
            )}
            <span className="soft">
              {t.name}: {t.title}
            </span>
          </label>
        ))}
      </div>
      <h3>Links between them</h3>
      {links.length === 0 && <p className="soft">None are known: its manual names those that it ships with.</p>}
      <ul className="profile-links">
        {links.map((l, i) => (
          <li key={i}>
            {change ? (
              <>
                {[0, 1].map(end => (
                  <Input
                    key={end}
                    aria-label={`Link ${i + 1}, ${end === 0 ? 'from' : 'to'}`}
                    value={l.between?.[end] ?? ''}
                    maxLength={12}
                    onChange={e =>
                      put(i, { between: [0, 1].map(k => (k === end ? e.target.value : (l.between?.[k] ?? ''))) })
                    }
                  />
                ))}
                <Checkbox checked={l.fitted === true} onChange={e => put(i, { fitted: e.target.checked })}>
                  it ships with it
                </Checkbox>
                <Select
                  aria-label={`Link ${i + 1} is wanted`}
                  value={l.for ?? ''}
                  popupMatchSelectWidth={false}
                  options={[
                    { value: '', label: 'always wanted' },
                    ...known.map(t => ({ value: t.name, label: `wanted while nothing is at ${t.name}` })),
                  ]}
                  onChange={to => put(i, { for: to })}
                />
                <Input
                  aria-label={`Link ${i + 1}, what it is for`}
                  className="says"
                  value={l.says ?? ''}
                  maxLength={200}
                  onChange={e => put(i, { says: e.target.value })}
                />
                <Button onClick={() => change({ links: links.filter((_, k) => k !== i) })}>Take out</Button>
              </>
            ) : (
              <span>
                <b className="figures">{l.between?.join('–')}</b> {l.says}
                <span className="soft">
                  {l.fitted ? '; it ships with it' : '; it ships without'}
                  {l.for ? `, wanted while nothing is wired to ${marks[l.for] ?? l.for}` : ', always wanted'}
                </span>
              </span>
            )}
          </li>
        ))}
      </ul>
      {change && (
        <Button onClick={() => change({ links: [...links, { between: ['', ''], fitted: true, for: '', says: '' }] })}>
          A link more
        </Button>
      )}
    </>
  );
}
