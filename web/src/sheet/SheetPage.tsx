import { Button } from 'antd';
import { useEffect } from 'react';
import { useNavigate, useParams } from 'react-router';
import { words } from '../api/client';
import { useSheet } from '../api/hooks';
import { chooseShop } from '../frame/shop';
import { Band } from '../parts/Band';
import { DrawingView } from '../parts/DrawingView';
import { Verdicts } from '../parts/Verdicts';
import { ColumnTable } from './ColumnTable';
import { SectionTable } from './SectionTable';
import './sheet.css';

/** The job sheet to take to the machine: one page on screen, printed well on A4 or Letter. */
export function SheetPage() {
  const { motor = '' } = useParams();
  const sheet = useSheet(motor, 0);
  const navigate = useNavigate();
  const shop = sheet.data?.shop_id;
  useEffect(() => {
    if (shop) chooseShop(shop);
  }, [shop]);
  if (sheet.isError)
    return (
      <p className="problem" role="alert">
        {words(sheet.error)}
      </p>
    );
  if (!sheet.data) return <p className="soft">Making the sheet…</p>;
  const s = sheet.data;
  return (
    <>
      <div className="sheet-tools no-print">
        <Button onClick={() => navigate(`/machines/${s.machine_id}/size?motor=${motor}`)}>Back to the machine</Button>
        <Button type="primary" autoFocus onClick={() => window.print()}>
          Print
        </Button>
        <Button href={`/api/motors/${motor}/sheet.pdf`}>PDF</Button>
      </div>
      <article className="sheet">
        <header>
          <h1>
            {s.machine}
            {s.motor && ` · ${s.motor}`}
          </h1>
          <p>
            Job sheet: {s.route}
            {s.on && `; it hangs on ${s.on} and is drawn behind it`}. {s.shop}, {s.supply}
          </p>
        </header>
        <Band rows={s.headline} />
        {s.drawings.map(d => (
          <DrawingView key={d.title} drawing={d} />
        ))}
        {s.box && <DrawingView drawing={s.box} />}
        <h2>Verdicts</h2>
        <Verdicts verdicts={s.verdicts} />
        {s.sections.map(section => (
          <SectionTable key={section.title} section={section} />
        ))}
        {s.tables.map(table => (
          <ColumnTable key={table.title} table={table} />
        ))}
        <p className="soft">“Assumed” means taken from a table or resting on one: replace it by a reading.</p>
        <h2>Is this mine to do?</h2>
        <ul className="ticks">
          {s.mine.map(t => (
            <li key={t.says}>
              <span aria-hidden="true">{t.ticked ? '☒' : '☐'}</span> {t.says}
            </li>
          ))}
        </ul>
        <h2>Cautions</h2>
        <Verdicts verdicts={s.cautions} />
        <footer>{s.footer}</footer>
      </article>
    </>
  );
}
