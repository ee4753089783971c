// @vitest-environment happy-dom
import { act, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Later } from './Later';

const place = document.createElement('div');
let root: ReturnType<typeof createRoot>;
const show = (children: ReactNode) => act(async () => root.render(children));
const Lost = () => {
  throw new Error('not fetched');
};

beforeEach(() => {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  vi.spyOn(console, 'error').mockImplementation(() => {});
  root = createRoot(place, { onCaughtError: () => {} });
});
afterEach(async () => {
  await act(async () => root.unmount());
  vi.restoreAllMocks();
});

test('what cannot be fetched is said in its place, and the rest stays', async () => {
  await show(
    <>
      <p>the rest</p>
      <Later>
        <Lost />
      </Later>
    </>,
  );
  expect(place.textContent).toContain('the rest');
  expect(place.querySelector('[role=alert]')?.textContent).toContain('could not be fetched');
});

test('a quiet one leaves nothing', async () => {
  await show(
    <Later quiet>
      <Lost />
    </Later>,
  );
  expect(place.textContent).toBe('');
});

test('what comes into the place next is tried anew', async () => {
  await show(
    <Later>
      <Lost />
    </Later>,
  );
  await show(
    <Later>
      <p>another place</p>
    </Later>,
  );
  expect(place.textContent).toBe('another place');
});
