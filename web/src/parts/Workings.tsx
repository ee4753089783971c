import { Drawer } from 'antd';
import { createContext, memo, useCallback, useContext, useMemo, useState, type ReactNode } from 'react';
import type { Working } from '../api/client';
import { Link } from 'react-router';
import { number } from './number';
import './workings.css';

/** Which figures have a working to be shown here, and how it is opened. */
const Open = createContext<{ has: (figure: string) => boolean; open: (figure: string) => void }>({
  has: () => false,
  open: () => {},
});

/** Holds the workings of a view and the drawer that shows one of them; with a motor it is reckoned on from there. */
export function Workings({ list, motor, children }: { list: Working[]; motor?: string; children: ReactNode }) {
  const [figure, setFigure] = useState('');
  const working = list.find(w => w.figure === figure);
  const close = useCallback(() => setFigure(''), []);
  const shown = useMemo(() => ({ has: (name: string) => list.some(w => w.figure === name), open: setFigure }), [list]);
  return (
    <Open.Provider value={shown}>
      {children}
      <Shown working={working} motor={motor} close={close} />
    </Open.Provider>
  );
}

/** The working that is open, drawn anew only for itself. */
const Shown = memo(function Shown({
  working,
  motor,
  close,
}: {
  working: Working | undefined;
  motor?: string;
  close: () => void;
}) {
  return (
    <Drawer open={!!working} onClose={close} title={working && `${working.title}: ${working.shown}`} size={520}>
      {working && <Steps working={working} />}
      {working && working.rules.length > 0 && <p className="soft">Judged by {working.rules.join(', ')}.</p>}
      {working && motor && (
        <Link className="alone" to={`/rulebook?tab=sums&motor=${motor}`}>
          Reckon on, any way round
        </Link>
      )}
    </Drawer>
  );
});

/** A figure that opens its working when it is pressed, where there is one. */
export function Figure({ figure, children, label }: { figure: string; children: ReactNode; label?: string }) {
  const { has, open } = useContext(Open);
  if (!has(figure)) return children;
  return (
    <button
      type="button"
      className="figure-button"
      onClick={() => open(figure)}
      aria-label={label}
      title="Show the working"
    >
      {children}
    </button>
  );
}

function Steps({ working }: { working: Working }) {
  return (
    <ol className="steps-of">
      {working.steps.map((step, i) => (
        <li key={i}>
          <p className="formula">{step.formula}</p>
          {step.terms.length > 0 && (
            <table>
              <tbody>
                {step.terms.map((t, k) => (
                  <tr key={k}>
                    <td>{t.name}</td>
                    <td className="figures">
                      {number(t.value)} {t.unit}
                    </td>
                    <td className={`origin ${t.origin}`}>
                      {t.origin}
                      {t.source ? `: ${t.source}` : ''}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <p className="result figures">
            = {number(step.result)} {step.unit}
          </p>
          <p className="soft">{step.source}</p>
        </li>
      ))}
    </ol>
  );
}
