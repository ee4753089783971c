import { Button, Input } from 'antd';
import { useState } from 'react';
import type { LeadsPage } from '../api/client';
import { noted } from './LeadGrid';
import type { Edit } from './LeadsStep';

/** What to measure next, with a field for what the meter says. */
export function NextReading({ v, problems, edit }: { v: LeadsPage; problems: Record<string, string>; edit: Edit }) {
  const [text, setText] = useState('');
  if (v.next) {
    const [a, b] = v.next as [string, string];
    const note = (reading: string) => reading.trim() && edit(`reading.${a}.${b}`, l => noted(l, a, b, reading.trim()));
    return (
      <form
        className="next-reading"
        onSubmit={e => {
          e.preventDefault();
          note(text);
        }}
      >
        <p>
          <b>
            Measure {a} – {b}
          </b>{' '}
          <span className="soft">
            {v.asked} of at most {v.bound} taken
          </span>
        </p>
        <div className="next-tools">
          <Input
            aria-label={`Ohms between ${a} and ${b}`}
            autoFocus={v.asked > 0}
            value={text}
            maxLength={40}
            placeholder="ohms"
            onChange={e => setText(e.target.value)}
          />
          <Button htmlType="submit" type="primary">
            Note it
          </Button>
          <Button onClick={() => note('open')}>Open</Button>
        </div>
        {problems[`reading.${a}.${b}`] && (
          <p className="problem" role="alert">
            {problems[`reading.${a}.${b}`]}
          </p>
        )}
      </form>
    );
  }
  const kick = v.next_polarity ?? v.check_polarity;
  if (!kick) return v.connectable ? <p className="soft settled">Nothing more to measure.</p> : null;
  const [plus, minus] = kick.driven as [string, string];
  const [first, second] = kick.sensed as [string, string];
  const note = (reading: string) =>
    reading.trim() &&
    edit(`kick.${plus}.${minus}.${first}.${second}`, l => ({
      polarity: [
        ...l.polarity.filter(k => String([k.driven, k.sensed]) !== String([kick.driven, kick.sensed])),
        { driven: kick.driven, sensed: kick.sensed, text: reading.trim() },
      ],
    }));
  return (
    // The focus comes here, not onto a button: a key held too long must not note a deflection.
    <form
      className="next-reading"
      tabIndex={-1}
      ref={form => {
        if (v.asked > 0 && document.activeElement === document.body) form?.focus();
      }}
      onSubmit={e => {
        e.preventDefault();
        note(text);
      }}
    >
      <p>
        <b>
          Battery + to {plus}, − to {minus}. Meter + to {first}, − to {second}.
        </b>
        {kick.expect && <span className="soft"> It must read {kick.expect}.</span>}
      </p>
      <p className="soft">
        Watch the first movement as the battery goes on, not off. Insulated clips; nobody touches a lead.
      </p>
      <div className="next-tools">
        <Button onClick={() => note('+')}>+ up</Button>
        <Button onClick={() => note('-')}>− down</Button>
        <Button onClick={() => note('0')}>hardly moves</Button>
      </div>
      <details>
        <summary>With low alternating volts instead</summary>
        <p className="soft">
          At most a tenth of plate volts, current limited, on {plus} and {minus}. Read {plus}–{minus}, then {first}–
          {second}, then join {minus} to {first} and read {plus}–{second}.
        </p>
        <div className="next-tools">
          <Input
            aria-label="Driven, sensed and series volts"
            value={text}
            maxLength={40}
            placeholder="12/5.8/17.6"
            onChange={e => setText(e.target.value)}
          />
          <Button htmlType="submit">Note it</Button>
        </div>
      </details>
    </form>
  );
}
