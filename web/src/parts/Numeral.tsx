import { Input } from 'antd';
import { useKept } from './kept';
import { marked, number } from './number';

/**
 * A figure typed by hand, with comma or point. What is none, or out of range, stays as it was typed with a sentence
 * under it, over a reload too; the last good figure counts meanwhile.
 */
export function Numeral({
  keep,
  label,
  value,
  from,
  to,
  integer,
  unit,
  placeholder,
  change,
  says,
}: {
  /** Where this browser keeps what is not a figure yet. */
  keep: string;
  label: string;
  /** Null for a field left empty. */
  value: number | null;
  from?: number;
  to?: number;
  integer?: boolean;
  unit?: string;
  placeholder?: string;
  change: (value: number | null) => void;
  /** What the server says of it. */
  says?: string;
}) {
  const [text, setText, settle] = useKept<string | null>(keep, null);
  const read = (typed: string) => (typed.trim() === '' ? null : Number(typed.trim().replace(',', '.')));
  const good = (figure: number | null) =>
    figure === null ||
    (Number.isFinite(figure) &&
      figure >= (from ?? -Infinity) &&
      figure <= (to ?? Infinity) &&
      (!integer || Number.isInteger(figure)));
  const type = (typed: string) => {
    setText(typed);
    const figure = read(typed);
    if (!good(figure)) return;
    settle();
    change(figure);
  };
  const rest = () => {
    if (bad) return;
    setText(null);
    settle();
  };
  const bad = text !== null && !good(read(text));
  const range = from !== undefined && to !== undefined ? `, ${number(from)} to ${number(to)}` : '';
  const counted = value === null ? 'until then the usual one counts' : `until then ${number(value)} counts`;
  const problem = bad ? `${label} is a ${integer ? 'whole ' : ''}number${range}; ${counted}.` : says;
  return (
    <>
      <Input
        className="numeral"
        aria-label={label}
        aria-invalid={!!problem}
        status={problem ? 'error' : undefined}
        inputMode="decimal"
        maxLength={20}
        suffix={unit}
        placeholder={placeholder}
        value={text ?? (value === null ? '' : marked(String(value)))}
        onChange={e => type(e.target.value)}
        onBlur={rest}
      />
      {problem && (
        <span className="problem" role="alert">
          {problem}
        </span>
      )}
    </>
  );
}
