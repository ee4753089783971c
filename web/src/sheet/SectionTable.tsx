import type { Schemas } from '../api/client';
import { Figure } from '../parts/Workings';
import './section.css';

/** A section of the job sheet as rows: what, the figure, a remark. */
export function SectionTable({ section }: { section: Schemas['RuleSection'] }) {
  return (
    <table className="section">
      <caption>{section.title}</caption>
      <tbody>
        {section.rows.map(row => (
          <tr key={row.label}>
            <th scope="row">{row.label}</th>
            <td className="value-cell">
              <Figure figure={row.figure}>
                <span className="value">{row.value}</span>
              </Figure>
              {row.assumed && <em className="assumed-mark"> assumed</em>}
            </td>
            <td>{row.remark}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
