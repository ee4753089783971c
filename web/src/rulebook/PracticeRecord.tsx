import { useQuery } from '@tanstack/react-query';
import { ask, client, words } from '../api/client';
import { at } from '../api/hooks';
import { keys } from '../api/keys';

/** Who has answered what, and how often rightly: for whoever practises, and for whoever teaches. */
export function PracticeRecord({ shop }: { shop: string }) {
  const page = useQuery({
    queryKey: keys.practice(shop),
    staleTime: 0,
    queryFn: () => ask(client.GET('/shops/{id}/practice', at(shop))),
  });
  if (page.isError)
    return (
      <p className="problem" role="alert">
        {words(page.error)}
      </p>
    );
  if (!page.data) return <p className="soft">Looking it up…</p>;
  const people = [...new Set(page.data.map(r => r.person))];
  if (people.length === 0)
    return (
      <section className="panel lesson">
        <h2>Nobody has practised under a name yet</h2>
        <p>Say who practises, above: answers are then kept here, by person.</p>
      </section>
    );
  return (
    <div className="practice">
      {people.map(person => {
        const rows = page.data!.filter(r => r.person === person);
        const right = rows.reduce((n, r) => n + r.right, 0);
        const tries = rows.reduce((n, r) => n + r.tries, 0);
        return (
          <section key={person} className="panel">
            <header>
              <h2>{person}</h2>
              <span className="soft">
                {right} of {tries} answers right
              </span>
            </header>
            <table className="facts">
              <thead>
                <tr>
                  <th scope="col">What</th>
                  <th scope="col">Right</th>
                  <th scope="col">Last</th>
                </tr>
              </thead>
              <tbody>
                {rows.map(r => (
                  <tr key={r.kind + r.name}>
                    <th scope="row">{r.title}</th>
                    <td className="figures">
                      {r.right} of {r.tries}
                    </td>
                    <td>{new Date(r.last).toLocaleDateString()}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        );
      })}
    </div>
  );
}
