// @vitest-environment happy-dom
import { act, useState } from 'react';
import { createRoot } from 'react-dom/client';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { setReading } from '../theme/reading';
import { Numeral } from './Numeral';

const place = document.createElement('div');
let root: ReturnType<typeof createRoot>;
let changes: (number | null)[];

function Field({ from = 0, to = 100, integer = false }: { from?: number; to?: number; integer?: boolean }) {
  const [value, setValue] = useState<number | null>(1.5);
  const change = (v: number | null) => {
    changes.push(v);
    setValue(v);
  };
  return (
    <Numeral keep="test.numeral" label="Run" value={value} from={from} to={to} integer={integer} change={change} />
  );
}

const show = (field = <Field />) => act(async () => root.render(field));
const input = () => place.querySelector('input')!;
const problem = () => place.querySelector('[role=alert]')?.textContent ?? '';
const type = (text: string) =>
  act(async () => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(input(), text);
    input().dispatchEvent(new Event('input', { bubbles: true }));
  });
const leave = () => act(async () => input().dispatchEvent(new FocusEvent('focusout', { bubbles: true })));

beforeEach(() => {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  vi.spyOn(console, 'error').mockImplementation(() => {});
  localStorage.clear();
  changes = [];
  document.body.append(place);
  root = createRoot(place);
});
afterEach(async () => {
  await act(async () => root.unmount());
  setReading({ mark: '' });
  vi.restoreAllMocks();
});

test.each(['24.5', '24,5', ' 24.5 '])('%s is the same figure', async text => {
  await show();
  await type(text);
  expect(changes).toEqual([24.5]);
  expect(problem()).toBe('');
});

test.each(['2x', '-1', '101', '1.2.3'])('%s stays as typed, with a sentence, and changes nothing', async text => {
  await show();
  await type(text);
  await leave();
  expect(changes).toEqual([]);
  expect(input().value).toBe(text);
  expect(problem()).toBe('Run is a number, 0 to 100; until then 1.5 counts.');
});

test('what is no figure yet is there after a reload, and gone once it is one', async () => {
  await show();
  await type('2x');
  await act(async () => root.unmount());
  root = createRoot(place);
  await show();
  expect(input().value).toBe('2x');
  await type('2');
  await leave();
  expect(localStorage.getItem('brackmoor.kept.test.numeral')).toBeNull();
  expect(input().value).toBe('2');
});

test('an empty field is none, and a whole number is whole', async () => {
  await show(<Field integer />);
  await type('');
  await type('2.5');
  expect(changes).toEqual([null]);
  expect(problem()).toContain('is a whole number');
  await type('3');
  expect(changes).toEqual([null, 3]);
});

test('it is shown with the mark of its person', async () => {
  setReading({ mark: 'comma' });
  await show();
  expect(input().value).toBe('1,5');
});
