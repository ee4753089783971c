import { Button, Input } from 'antd';
import type { Leads } from '../api/client';
import type { Edit } from './LeadsStep';

/** The polarity readings that were taken, to be put right or taken away. */
export function Kicks({ leads, problems, edit }: { leads: Leads; problems: Record<string, string>; edit: Edit }) {
  return (
    <section className="panel wide">
      <header>
        <h2>Polarity readings</h2>
        <span className="soft">+ or − or 0, or driven/sensed/series volts</span>
      </header>
      <ul className="kicks">
        {leads.polarity.map((k, i) => (
          <li key={i}>
            <span>
              + {k.driven[0]}, − {k.driven[1]}; meter + {k.sensed[0]}, − {k.sensed[1]}
            </span>
            <Input
              aria-label={`Deflection ${i + 1}`}
              value={k.text}
              maxLength={40}
              status={problems[`kick.${i}`] ? 'error' : undefined}
              onChange={e =>
                edit(`kick.${i}`, l => ({
                  polarity: l.polarity.map((o, n) => (n === i ? { ...o, text: e.target.value } : o)),
                }))
              }
            />
            <Button onClick={() => edit(`kick.${i}.gone`, l => ({ polarity: l.polarity.filter((_, n) => n !== i) }))}>
              Take away
            </Button>
            {problems[`kick.${i}`] && (
              <p className="problem" role="alert">
                {problems[`kick.${i}`]}
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
