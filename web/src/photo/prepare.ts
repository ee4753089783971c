/** A picture in shades of grey, 0 to 255, row by row. */
export interface Grey {
  wide: number;
  high: number;
  at: Uint8Array;
}

/** A place in a picture, in its own points, from the top left. */
export interface Spot {
  x: number;
  y: number;
}

/** The four corners of a plate: top left, top right, bottom right, bottom left. */
export type Corners = [Spot, Spot, Spot, Spot];

export const whole = (g: { wide: number; high: number }): Corners => [
  { x: 0, y: 0 },
  { x: g.wide, y: 0 },
  { x: g.wide, y: g.high },
  { x: 0, y: g.high },
];

/** The grey of a picture of the browser, by the weights of ITU-R BT.601. */
export function greyOf(picture: { width: number; height: number; data: Uint8ClampedArray }): Grey {
  const { width: wide, height: high, data } = picture;
  const at = new Uint8Array(wide * high);
  for (let i = 0; i < at.length; i++)
    at[i] = 0.299 * data[4 * i]! + 0.587 * data[4 * i + 1]! + 0.114 * data[4 * i + 2]!;
  return { wide, high, at };
}

/** What is less spread than this is ground without letters: the grain of the camera. */
const leastSpread = 14;

/** The picture with every point the mean of the nine around it, which takes the grain off. */
export function calmed(g: Grey): Grey {
  const { wide, high } = g;
  const row = new Float32Array(wide * high);
  const at = new Uint8Array(wide * high);
  for (let y = 0; y < high; y++)
    for (let x = 0; x < wide; x++) {
      const i = y * wide + x;
      row[i] = g.at[i - (x > 0 ? 1 : 0)]! + g.at[i]! + g.at[i + (x < wide - 1 ? 1 : 0)]!;
    }
  for (let i = 0; i < at.length; i++) at[i] = ((row[i - wide] ?? row[i]!) + row[i]! + (row[i + wide] ?? row[i]!)) / 9;
  return { wide, high, at };
}

/**
 * The picture with its light made even: each point against the mean and the spread of the square around it, so that
 * shade, glare and paint go and the letters stay dark on light. `strength` is by how much: 1 as it is guessed.
 */
export function evened(g: Grey, strength = 1): Grey {
  const { wide, high } = g;
  const reach = Math.max(8, Math.round(high / 24));
  const sums = new Float64Array((wide + 1) * (high + 1));
  const squares = new Float64Array((wide + 1) * (high + 1));
  for (let y = 0; y < high; y++) {
    let sum = 0;
    let square = 0;
    for (let x = 0; x < wide; x++) {
      const v = g.at[y * wide + x]!;
      sum += v;
      square += v * v;
      const here = (y + 1) * (wide + 1) + x + 1;
      sums[here] = sums[here - wide - 1]! + sum;
      squares[here] = squares[here - wide - 1]! + square;
    }
  }
  const off = new Float32Array(wide * high);
  let skew = 0;
  for (let y = 0; y < high; y++) {
    const top = Math.max(0, y - reach) * (wide + 1);
    const bottom = Math.min(high, y + reach + 1) * (wide + 1);
    for (let x = 0; x < wide; x++) {
      const left = Math.max(0, x - reach);
      const right = Math.min(wide, x + reach + 1);
      const n = ((bottom - top) / (wide + 1)) * (right - left);
      const over = (of: Float64Array) => of[bottom + right]! - of[bottom + left]! - of[top + right]! + of[top + left]!;
      const mean = over(sums) / n;
      const spread = Math.sqrt(Math.max(0, over(squares) / n - mean * mean));
      const v = (g.at[y * wide + x]! - mean) / Math.max(spread, leastSpread);
      off[y * wide + x] = v;
      if (spread > leastSpread) skew += v * v * v;
    }
  }
  // Letters are the lesser part of a plate: what stands out far from its surroundings is ink, dark or light.
  const sign = skew > 0 ? -1 : 1;
  const at = new Uint8Array(off.length);
  for (let i = 0; i < at.length; i++) at[i] = Math.max(0, Math.min(255, 310 + sign * strength * 130 * off[i]!));
  return { wide, high, at };
}

/** How wide a picture is made in which angles are looked for. */
const lookWide = 400;

/**
 * By how much the lines of a picture lean, in radians, clockwise: at the right angle the rows of ink and the rows
 * between them differ most (the projection profile of the ink, its sum of squares over angles of up to `most`).
 */
export function leanOf(even: Grey, most = 0.3): number {
  const step = Math.max(1, Math.round(even.wide / lookWide));
  const ink: Spot[] = [];
  for (let y = 0; y < even.high; y += step)
    for (let x = 0; x < even.wide; x += step)
      if (even.at[y * even.wide + x]! < 110) ink.push({ x: x / step, y: y / step });
  const rows = Math.ceil((even.high + even.wide) / step) * 2;
  const sharp = (angle: number) => {
    const counts = new Float64Array(rows);
    const tangent = Math.tan(angle);
    for (const { x, y } of ink) {
      const row = Math.round(y - x * tangent + rows / 2);
      counts[row] = (counts[row] ?? 0) + 1;
    }
    return counts.reduce((sum, n) => sum + n * n, 0);
  };
  const best = (from: number, to: number, by: number) => {
    let found = { angle: 0, value: -1 };
    for (let angle = from; angle <= to; angle += by) {
      const value = sharp(angle);
      if (value > found.value) found = { angle, value };
    }
    return found.angle;
  };
  const rough = best(-most, most, 0.02);
  const fine = best(rough - 0.02, rough + 0.02, 0.0025);
  // Rows are whole, so that the sharpest of a few angles is not the middle of all that are sharp: their balance is.
  let [sum, weight] = [0, 0];
  const least = sharp(fine) * 0.8;
  for (let angle = fine - 0.01; angle <= fine + 0.01; angle += 0.001) {
    const over = Math.max(0, sharp(angle) - least);
    sum += angle * over;
    weight += over;
  }
  return weight > 0 ? sum / weight : fine;
}

/** How much of the ink at each edge is not counted on, and what is left around the rest, of the picture's width. */
const stray = 0.002;
const margin = 0.03;

/** Where the plate is guessed to lie: an upright rectangle around the letters, leaning as their lines do. */
export function guessed(photo: Grey): Corners {
  const even = evened(calmed(photo));
  const angle = leanOf(even);
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  const [xs, ys]: number[][] = [[], []];
  for (let y = 0; y < even.high; y += 3)
    for (let x = 0; x < even.wide; x += 3)
      if (even.at[y * even.wide + x]! < 110) {
        xs!.push(x * cos + y * sin);
        ys!.push(y * cos - x * sin);
      }
  if (xs!.length < 20) return whole(photo);
  const reach = (list: number[]) => {
    list.sort((a, b) => a - b);
    const room = margin * even.wide;
    return [list[Math.floor(stray * list.length)]! - room, list[Math.ceil((1 - stray) * list.length) - 1]! + room];
  };
  const [left, right] = reach(xs!) as [number, number];
  const [top, bottom] = reach(ys!) as [number, number];
  const within = ([x, y]: [number, number]): Spot => ({
    x: Math.max(0, Math.min(even.wide, x * cos - y * sin)),
    y: Math.max(0, Math.min(even.high, x * sin + y * cos)),
  });
  return [within([left, top]), within([right, top]), within([right, bottom]), within([left, bottom])];
}

const between = (a: Spot, b: Spot) => Math.hypot(a.x - b.x, a.y - b.y);

/**
 * Where a point of the straightened picture lies in the photo: the one projective map that takes the corners of the
 * unit square to the four (Heckbert, Fundamentals of Texture Mapping and Image Warping, 1989, 2.2.3).
 */
export function placed(corners: Corners): (u: number, v: number) => Spot {
  const [a, b, c, d] = corners;
  const [dx1, dx2, sx] = [b.x - c.x, d.x - c.x, a.x - b.x + c.x - d.x];
  const [dy1, dy2, sy] = [b.y - c.y, d.y - c.y, a.y - b.y + c.y - d.y];
  const det = dx1 * dy2 - dx2 * dy1 || 1e-9;
  const g = (sx * dy2 - dx2 * sy) / det;
  const h = (dx1 * sy - sx * dy1) / det;
  return (u, v) => {
    const w = g * u + h * v + 1;
    return {
      x: ((b.x - a.x + g * b.x) * u + (d.x - a.x + h * d.x) * v + a.x) / w,
      y: ((b.y - a.y + g * b.y) * u + (d.y - a.y + h * d.y) * v + a.y) / w,
    };
  };
}

/** The plate between four corners as an upright picture of at most `most` points in width, its points mixed of four. */
export function straightened(g: Grey, corners: Corners, most = 1280): Grey {
  const [a, b, c, d] = corners;
  const across = Math.max(between(a, b), between(d, c), 1);
  const wide = Math.round(Math.min(most, Math.max(across, Math.min(most, 900))));
  const high = Math.max(1, Math.round((wide * Math.max(between(a, d), between(b, c))) / across));
  const at = new Uint8Array(wide * high);
  const place = placed(corners);
  for (let y = 0; y < high; y++)
    for (let x = 0; x < wide; x++) {
      const p = place((x + 0.5) / wide, (y + 0.5) / high);
      const [px, py] = [Math.floor(p.x - 0.5), Math.floor(p.y - 0.5)];
      const [fx, fy] = [p.x - 0.5 - px, p.y - 0.5 - py];
      const from = (i: number, j: number) =>
        g.at[Math.max(0, Math.min(g.high - 1, j)) * g.wide + Math.max(0, Math.min(g.wide - 1, i))]!;
      at[y * wide + x] = Math.round(
        (from(px, py) * (1 - fx) + from(px + 1, py) * fx) * (1 - fy) +
          (from(px, py + 1) * (1 - fx) + from(px + 1, py + 1) * fx) * fy,
      );
    }
  return { wide, high, at };
}
