import { memo } from 'react';
import type { Row } from '../api/client';
import { Figure } from './Workings';
import './band.css';

/** The answer in one dark band of large figures; each opens its working where there is one to open. */
export const Band = memo(function Band({ rows }: { rows: Row[] }) {
  return (
    <dl className="band" aria-label="Answer">
      {rows.map(row => {
        const [value, aside] = row.value.split(/ (?=\(.*\)$)/);
        return (
          <div key={row.label}>
            <dt>
              {row.label}
              {row.assumed && <em>assumed</em>}
            </dt>
            <dd className={value!.length > 11 ? 'figures long' : 'figures'}>
              <Figure figure={row.figure} label={`${row.label} ${row.value}: show the working`}>
                <span className="value">{value}</span>
                {aside && <span className="aside">{aside}</span>}
              </Figure>
            </dd>
            <dd className="remark">{row.remark}</dd>
          </div>
        );
      })}
    </dl>
  );
});
