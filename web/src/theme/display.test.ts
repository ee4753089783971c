// @vitest-environment happy-dom
import { beforeEach, expect, test, vi } from 'vitest';

const page = document.documentElement;

/** Opens a page on a device that is lit in a way, where something was chosen before. */
async function opened(dark: boolean, kept?: string) {
  vi.resetModules();
  vi.stubGlobal('matchMedia', () => ({ matches: dark, addEventListener: () => {} }));
  if (kept !== undefined) localStorage.setItem('brackmoor.display', kept);
  return import('./display');
}

beforeEach(() => localStorage.clear());

test.each([
  ['nothing chosen', true, undefined, 'paper', 'usual'],
  ['by torch', false, '{"ground":"torch"}', 'torch', 'usual'],
  ['as a dark device', true, '{"ground":"device","type":"large"}', 'torch', 'large'],
  ['as a light device', false, '{"ground":"device"}', 'paper', 'usual'],
  ['what is no choice', false, '{"ground":', 'paper', 'usual'],
])('a page opens lit as this device is: %s', async (_, dark, kept, ground, type) => {
  await opened(dark, kept);
  expect([page.dataset.ground, page.dataset.type]).toEqual([ground, type]);
});

test('a choice holds at once and is kept, and a print is always on paper', async () => {
  const { setDisplay } = await opened(false);
  setDisplay({ ground: 'torch' });
  setDisplay({ type: 'large' });
  expect([page.dataset.ground, page.dataset.type]).toEqual(['torch', 'large']);
  expect(JSON.parse(localStorage.getItem('brackmoor.display')!)).toEqual({ ground: 'torch', type: 'large' });
  window.dispatchEvent(new Event('beforeprint'));
  expect(page.dataset.ground).toBe('paper');
  window.dispatchEvent(new Event('afterprint'));
  expect(page.dataset.ground).toBe('torch');
});

test('a choice made in another window is followed', async () => {
  await opened(false);
  localStorage.setItem('brackmoor.display', '{"ground":"torch"}');
  window.dispatchEvent(new StorageEvent('storage', { key: 'brackmoor.display' }));
  expect(page.dataset.ground).toBe('torch');
});
