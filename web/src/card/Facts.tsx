import { memo } from 'react';
import type { Row } from '../api/client';
import { Figure } from '../parts/Workings';

/** Figures with their remarks, one under the other; each opens its working where there is one. */
export const Facts = memo(function Facts({ rows }: { rows: Row[] }) {
  return (
    <dl className="short-facts">
      {rows.map(row => (
        <div key={row.label}>
          <dt>
            {row.label}
            {row.assumed && <em>assumed</em>}
          </dt>
          <dd className="figures">
            <Figure figure={row.figure} label={`${row.label} ${row.value}: show the working`}>
              {row.value}
            </Figure>
          </dd>
          <dd className="soft">{row.remark}</dd>
        </div>
      ))}
    </dl>
  );
});
