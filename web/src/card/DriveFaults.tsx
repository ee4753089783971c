import { Input, Radio } from 'antd';
import type { Schemas } from '../api/client';
import { useKept } from '../parts/kept';
import { Sign } from '../parts/Verdicts';
import { Cure } from './FaultStep';

type Trouble = Schemas['DriveTrouble'];

/** What a drive shows or does wrong: what it means here, what is looked at first, and the settings behind it. */
export function DriveFaults({ motor, found }: { motor: string; found: Schemas['Diagnosis'] }) {
  const [picked, pick, settle] = useKept<{ name: string; cure: string }>(`${motor}.drive-fault`, {
    name: '',
    cure: '',
  });
  const groups: [string, Trouble[]][] = [
    ['On its display', found.drive.slice(0, found.faults)],
    ['Without a fault', found.drive.slice(found.faults)],
  ];
  const one = found.drive.find(t => t.name === picked.name);
  return (
    <div className="fault-step">
      <section className="panel symptoms" aria-label="What the drive shows or does">
        <h2>What the drive shows, or does</h2>
        <Radio.Group value={picked.name} onChange={e => pick({ ...picked, name: e.target.value as string })}>
          {groups.map(([title, list]) => (
            <div key={title} className="trouble-group">
              <h3>{title}</h3>
              {list.map(t => (
                <Radio key={t.name} value={t.name}>
                  {t.shown && <b className="figures">{t.shown} </b>}
                  {t.title}
                </Radio>
              ))}
            </div>
          ))}
        </Radio.Group>
      </section>
      <div className="fault-side">
        <section className="panel causes" aria-label="What it means">
          {one ? (
            <>
              <h2>{one.title}</h2>
              <p>{one.means}</p>
              <p className="look-says">
                <Sign severity="note" size={16} /> {one.look}
              </p>
              <p className="caution-line">
                Isolate and wait for the bus before any terminal is touched; measure it, and prove it dead.
              </p>
              {one.behind.length > 0 && (
                <table className="facts">
                  <thead>
                    <tr>
                      <th scope="col">Setting behind it</th>
                      <th scope="col">Meant</th>
                      <th scope="col">Read back last</th>
                    </tr>
                  </thead>
                  <tbody>
                    {one.behind.map(b => (
                      <tr key={b.title}>
                        <th scope="row">{b.title}</th>
                        <td className="figures">{b.meant}</td>
                        <td className={b.off ? 'figures problem' : 'figures'}>{b.read || 'never'}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              )}
              <label className="cured-with">
                What was done{' '}
                <Input
                  aria-label="What was done"
                  maxLength={300}
                  value={picked.cure}
                  onChange={e => pick({ ...picked, cure: e.target.value })}
                />
              </label>
            </>
          ) : (
            <h2>Pick what it shows: what that means here, and the settings behind it, are told</h2>
          )}
        </section>
        <Cure
          motor={motor}
          found={found}
          seen={one ? [one.shown ? `The drive shows ${one.shown}: ${one.title}` : one.title] : []}
          cure={picked.cure.trim()}
          said={!!one && picked.cure.trim() !== ''}
          done={() => {
            pick({ name: '', cure: '' });
            settle();
          }}
        />
      </div>
    </div>
  );
}
