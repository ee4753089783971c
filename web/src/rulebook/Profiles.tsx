import { Button, Input, Select } from 'antd';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at, readAgain } from '../api/hooks';
import { say } from '../frame/saving';
import { useKept } from '../parts/kept';
import { ProfileTerminals } from './ProfileTerminals';

type Profile = Schemas['DriveProfile'];
type Known = Schemas['DriveKnownSetting'];
type Parameter = Schemas['DriveParameter'];

const format = 'brackmoor.drive-profile/1';

/** The shop's own drive profiles: our names of settings against the numbers of the drive at hand. */
export function Profiles({
  shop,
  book,
}: {
  shop: Schemas['ShopHead'];
  book: Pick<Schemas['Rulebook'], 'profiles' | 'settings' | 'drive_terminals'>;
}) {
  const { profiles: shipped, settings, drive_terminals: terminals } = book;
  const [own, setOwn, settle] = useKept<Profile[]>(`profiles.${shop.id}`, shop.profiles);
  const [index, setIndex] = useState(0);
  const [fault, setFault] = useState<Problem | null>(null);
  const [read, setRead] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const all = [...own, ...shipped];
  const shown = all[Math.min(index, all.length - 1)];
  const mine = index < own.length;
  const changed = JSON.stringify(own) !== JSON.stringify(shop.profiles);
  const change = (patch: Partial<Profile>) => setOwn(own.map((p, i) => (i === index ? { ...p, ...patch } : p)));
  const add = (profile: Profile) => {
    setOwn([...own, profile]);
    setIndex(own.length);
  };
  const keep = async () => {
    try {
      await ask(client.PUT('/shops/{id}/profiles', { ...at(shop.id), body: { version: shop.version, profiles: own } }));
      setFault(null);
      settle();
      say({ text: 'Saved', bad: false });
      await readAgain(queries);
    } catch (e) {
      setFault(e instanceof Problem ? e : new Problem(0, words(e)));
    }
  };
  const open = async (chosen: File) => {
    try {
      const value = JSON.parse(await chosen.text()) as Profile;
      if (
        value?.format !== format ||
        typeof value.name !== 'string' ||
        typeof value.parameters !== 'object' ||
        value.parameters === null
      )
        throw new Error();
      add(value);
      setRead('');
    } catch {
      setRead(`${chosen.name} is no drive profile: it is JSON with the format “${format}”, a name and parameters.`);
    }
  };
  return (
    <section className="panel" aria-label="Drive profiles">
      <header>
        <h2>Drive profiles of {shop.name}</h2>
        <span className="soft">the numbers of a drive’s parameters, from its manual, beside our names</span>
      </header>
      <div className="profile-tools">
        <Select
          aria-label="Profile shown"
          value={Math.min(index, all.length - 1)}
          onChange={setIndex}
          popupMatchSelectWidth={false}
          options={all.map((p, i) => ({
            value: i,
            label: i < own.length ? p.name || 'without a name' : `${p.name}, ships with it`,
          }))}
        />
        {shown && (
          <Button onClick={() => add({ ...structuredClone(shown), name: `${shown.name} copy` })}>Copy it</Button>
        )}
        <Button onClick={() => add({ format, name: 'New drive', parameters: {} })}>New</Button>
        <Button onClick={() => file.current?.click()}>From JSON…</Button>
        <input
          ref={file}
          type="file"
          accept=".json,application/json"
          hidden
          aria-label="A drive profile as JSON"
          onChange={e => {
            const f = e.target.files?.[0];
            e.target.value = '';
            if (f) void open(f);
          }}
        />
        {shown && <Button onClick={() => download(shown)}>As JSON</Button>}
        {mine && (
          <Button
            danger
            onClick={() => {
              setOwn(own.filter((_, i) => i !== index));
              setIndex(0);
            }}
          >
            Take it out
          </Button>
        )}
      </div>
      {read && (
        <p className="problem" role="alert">
          {read}
        </p>
      )}
      {shown && (
        <>
          {mine && (
            <label className="profile-name">
              Name{' '}
              <Input
                aria-label="Name of the profile"
                value={shown.name}
                maxLength={80}
                onChange={e => change({ name: e.target.value })}
              />
            </label>
          )}
          <div className="scrolls">
            <table className="facts profile">
              <thead>
                <tr>
                  <th scope="col">Setting</th>
                  <th scope="col">Parameter</th>
                  <th scope="col">Unit it wants</th>
                  <th scope="col">How many of ours</th>
                  <th scope="col">Writes for a word</th>
                </tr>
              </thead>
              <tbody>
                {settings.map(k => (
                  <Entry
                    key={k.name}
                    known={k}
                    parameter={shown.parameters[k.name]}
                    edit={mine ? p => change({ parameters: withParameter(shown.parameters, k.name, p) }) : undefined}
                  />
                ))}
              </tbody>
            </table>
          </div>
          <ProfileTerminals profile={shown} known={terminals} change={mine ? change : undefined} />
        </>
      )}
      {fault && (
        <p className="problem" role="alert">
          {fault.message} {fault.fields.map(f => f.message).join(' ')}
        </p>
      )}
      <p className="keep">
        <Button type="primary" disabled={!changed} onClick={() => void keep()}>
          Keep these profiles
        </Button>{' '}
        {changed && <span className="soft">not kept yet</span>}
      </p>
    </section>
  );
}

/** Gives a profile to the browser as a file. */
function download(profile: Profile) {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([JSON.stringify(profile, null, 1)], { type: 'application/json' }));
  link.download = `${profile.name}.json`;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Parameters with one changed; one without a number is taken out. */
function withParameter(parameters: Profile['parameters'], name: string, parameter: Parameter): Profile['parameters'] {
  const empty = parameter.number === '' && !parameter.unit && !parameter.writes;
  return Object.fromEntries([
    ...Object.entries(parameters).filter(([n]) => n !== name),
    ...(empty ? [] : [[name, parameter] as const]),
  ]);
}

/** A setting's row; a profile that ships is only read. */
function Entry({ known, parameter, edit }: { known: Known; parameter?: Parameter; edit?: (p: Parameter) => void }) {
  const now: Parameter = parameter ?? { number: '' };
  if (!edit)
    return (
      <tr>
        <th scope="row">{known.title}</th>
        <td className="figures">{now.number || <span className="soft">not there</span>}</td>
        <td>{now.unit ?? known.unit}</td>
        <td className="figures">{now.times ?? ''}</td>
        <td>
          {Object.entries(now.writes ?? {})
            .map(([word, writes]) => `${word}: ${writes}`)
            .join(', ')}
        </td>
      </tr>
    );
  return (
    <tr>
      <th scope="row">{known.title}</th>
      <td>
        <Input
          aria-label={`Parameter of ${known.title}`}
          value={now.number}
          maxLength={20}
          onChange={e => edit({ ...now, number: e.target.value })}
        />
      </td>
      <td>
        {known.words.length === 0 && (
          <Input
            aria-label={`Unit of ${known.title}`}
            value={now.unit ?? ''}
            placeholder={known.unit}
            maxLength={20}
            onChange={e => edit({ ...now, unit: e.target.value || undefined })}
          />
        )}
      </td>
      <td>
        {known.words.length === 0 && (
          <Times title={known.title} value={now.times} change={times => edit({ ...now, times })} />
        )}
      </td>
      <td className="writes">
        {known.words.map(word => (
          <label key={word}>
            {word}{' '}
            <Input
              aria-label={`${known.title} ${word} is written`}
              value={now.writes?.[word] ?? ''}
              maxLength={40}
              onChange={e => edit({ ...now, writes: { ...now.writes, [word]: e.target.value } })}
            />
          </label>
        ))}
      </td>
    </tr>
  );
}

/** A factor as it is typed, with a comma or a point. */
function Times({ title, value, change }: { title: string; value?: number; change: (v?: number) => void }) {
  const [text, setText] = useState(value === undefined ? '' : String(value));
  const number = Number(text.replace(',', '.'));
  const bad = text !== '' && !(number > 0);
  return (
    <Input
      aria-label={`Factor of ${title}`}
      aria-invalid={bad}
      status={bad ? 'error' : undefined}
      value={text}
      placeholder="1"
      maxLength={12}
      onChange={e => {
        setText(e.target.value);
        const n = Number(e.target.value.replace(',', '.'));
        change(e.target.value !== '' && n > 0 ? n : undefined);
      }}
    />
  );
}
