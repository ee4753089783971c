// @vitest-environment happy-dom
import { act } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { useWakeLock } from './useWakeLock';

/** A screen that can be kept on, and how many hold it. */
let holding: number;
let willing: boolean;
class Lock extends EventTarget {
  released = false;
  release = async () => {
    if (this.released) return;
    this.released = true;
    holding--;
    this.dispatchEvent(new Event('release'));
  };
}
let last: Lock;
const request = async () => {
  if (!willing) throw new DOMException('low power', 'NotAllowedError');
  holding++;
  return (last = new Lock());
};

let root: Root;
let held: boolean;
function Run({ wanted }: { wanted: boolean }) {
  held = useWakeLock(wanted);
  return null;
}
const show = (wanted: boolean) => act(async () => root.render(<Run wanted={wanted} />));

beforeEach(() => {
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', true);
  Object.defineProperty(navigator, 'wakeLock', { value: { request }, configurable: true });
  holding = 0;
  willing = true;
  root = createRoot(document.createElement('div'));
});
afterEach(() => act(async () => root.unmount()));

test('the screen is kept on while it is wanted, and no longer', async () => {
  await show(true);
  expect([held, holding]).toEqual([true, 1]);
  await show(false);
  expect([held, holding]).toEqual([false, 0]);
  await show(true);
  await act(async () => root.render(<></>));
  expect(holding).toBe(0);
});

test('it is kept on again once the page is seen again', async () => {
  await show(true);
  await act(async () => void (await last.release()));
  expect([held, holding]).toEqual([false, 0]);
  await act(async () => void document.dispatchEvent(new Event('visibilitychange')));
  expect([held, holding]).toEqual([true, 1]);
});

test('a browser that will not is left alone', async () => {
  willing = false;
  await show(true);
  expect([held, holding]).toEqual([false, 0]);
});
