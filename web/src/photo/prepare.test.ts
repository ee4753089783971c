import { expect, test } from 'vitest';
import { calmed, evened, guessed, leanOf, placed, straightened, whole, type Corners, type Grey } from './prepare';

const between = (low: number, high: number) => low + (high - low) * Math.random();

/** Rows of dark dashes on a light ground, leaning by an angle, within a rectangle around the middle. */
function lined(angle: number, ground = 210, ink = 30): Grey {
  const [wide, high] = [600, 420];
  const at = new Uint8Array(wide * high).fill(ground);
  for (let y = 0; y < high; y++)
    for (let x = 0; x < wide; x++) {
      const [dx, dy] = [x - wide / 2, y - high / 2];
      const along = dx * Math.cos(angle) + dy * Math.sin(angle);
      const across = dy * Math.cos(angle) - dx * Math.sin(angle);
      const inside = Math.abs(along) < 200 && Math.abs(across) < 120;
      if (inside && (across + 400) % 40 < 12 && Math.floor((along + 400) / 9) % 3 > 0) at[y * wide + x] = ink;
    }
  return { wide, high, at };
}

test('four corners of any plate come to lie in the corners, and a line between two of them stays one', () => {
  for (let n = 0; n < 200; n++) {
    const corners: Corners = [
      { x: between(0, 100), y: between(0, 100) },
      { x: between(300, 400), y: between(0, 100) },
      { x: between(300, 400), y: between(200, 300) },
      { x: between(0, 100), y: between(200, 300) },
    ];
    const place = placed(corners);
    const at = [place(0, 0), place(1, 0), place(1, 1), place(0, 1)];
    at.forEach((p, i) => {
      expect(p.x).toBeCloseTo(corners[i]!.x, 6);
      expect(p.y).toBeCloseTo(corners[i]!.y, 6);
    });
    const [a, b, p] = [place(0, 0.3), place(1, 0.7), place(0.5, 0.5)];
    expect((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)).toBeCloseTo(0, 3);
  }
});

test('a picture straightened from its own corners is itself', () => {
  const at = Uint8Array.from({ length: 900 * 40 }, () => Math.floor(between(0, 256)));
  const g = { wide: 900, high: 40, at };
  const same = straightened(g, whole(g), 900);
  expect([same.wide, same.high]).toEqual([900, 40]);
  expect(Array.from(same.at)).toEqual(Array.from(at));
});

test('the lean of any lines is found, on light ground and on dark', () => {
  for (let n = 0; n < 12; n++) {
    const angle = between(-0.25, 0.25);
    const photo = n % 2 ? lined(angle) : lined(angle, 40, 220);
    expect(Math.abs(leanOf(evened(calmed(photo))) - angle)).toBeLessThan(Math.PI / 360); // half a degree
  }
});

test('letters come out dark on light, whatever the light on them', () => {
  for (const [ground, ink] of [
    [210, 40],
    [30, 200],
    [150, 110],
  ] as const) {
    const photo = lined(0, ground, ink);
    photo.at.forEach((v, i) => (photo.at[i] = v * (1 - (0.4 * (i % photo.wide)) / photo.wide)));
    const even = evened(photo);
    const marks = lined(0, 1, 0).at;
    const mean = (of: number) => {
      const list = Array.from(even.at).filter((_, i) => marks[i] === of);
      return list.reduce((a, b) => a + b, 0) / list.length;
    };
    expect(mean(0)).toBeLessThan(120);
    expect(mean(1)).toBeGreaterThan(200);
  }
});

test('the guess of a plate holds all its letters and leans as they do', () => {
  for (let n = 0; n < 6; n++) {
    const angle = between(-0.2, 0.2);
    const corners = guessed(lined(angle));
    const lean = Math.atan2(corners[1].y - corners[0].y, corners[1].x - corners[0].x);
    expect(Math.abs(lean - angle)).toBeLessThan(0.01);
    const across = Math.hypot(corners[1].x - corners[0].x, corners[1].y - corners[0].y);
    expect(across).toBeGreaterThan(396);
    expect(across).toBeLessThan(460);
  }
  const blank = { wide: 300, high: 200, at: new Uint8Array(60000).fill(128) };
  expect(guessed(blank)).toEqual(whole(blank));
});
