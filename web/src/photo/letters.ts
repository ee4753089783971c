import { createWorker, OEM, PSM, type Worker } from 'tesseract.js';
import workerPath from 'tesseract.js/dist/worker.min.js?url';
import corePath from 'tesseract.js-core/tesseract-core-lstm.wasm.js?url';
import dataPath from '@tesseract.js-data/eng/4.0.0_best_int/eng.traineddata.gz?url';
import type { Schemas } from '../api/client';
import { calmed, evened, straightened, type Corners, type Grey } from './prepare';

type Words = Schemas['PlateSeenWord'][];

/**
 * How a picture is made ready for each of its readings: its width in points, and how strongly its light is evened.
 * Two ways that differ, so that what both read alike is not by chance.
 */
const readings = [
  { wide: 1280, strength: 1 },
  { wide: 1000, strength: 0.75 },
];

let reader: Promise<Worker> | null = null;

/** The reader of letters: on this device, its engine and data from the server that the page came from. */
async function letters(): Promise<Worker> {
  reader ??= createWorker('eng', OEM.LSTM_ONLY, {
    workerPath,
    corePath,
    langPath: dataPath.slice(0, dataPath.lastIndexOf('/')),
    workerBlobURL: false,
    cacheMethod: 'none',
    gzip: true,
  }).then(async made => {
    await made.setParameters({
      tessedit_pageseg_mode: PSM.SINGLE_BLOCK,
      user_defined_dpi: '150',
      debug_file: '/dev/null', // what it finds too small for letters it would write to the console
    });
    return made;
  });
  return reader.catch((e: unknown) => {
    reader = null; // what could not be fetched is tried again
    throw e;
  });
}

/** A picture of shades of grey as a canvas. */
export function drawn(g: Grey): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = g.wide;
  canvas.height = g.high;
  const data = new ImageData(g.wide, g.high);
  for (let i = 0; i < g.at.length; i++) {
    data.data[4 * i] = data.data[4 * i + 1] = data.data[4 * i + 2] = g.at[i]!;
    data.data[4 * i + 3] = 255;
  }
  canvas.getContext('2d')!.putImageData(data, 0, 0);
  return canvas;
}

/** The words that are found between four corners of a photo, once for each way of making it ready. */
export async function wordsOf(
  photo: Grey,
  corners: Corners,
  strength: number,
  done: (share: number) => void,
): Promise<{ words: Words }[]> {
  const worker = await letters();
  const all = [];
  for (const [i, way] of readings.entries()) {
    done(i / readings.length);
    const even = evened(calmed(straightened(photo, corners, way.wide)), way.strength * strength);
    const { data } = await worker.recognize(drawn(even), {}, { blocks: true, text: false });
    const words = (data.blocks ?? [])
      .flatMap(b => b.paragraphs.flatMap(p => p.lines.flatMap(l => l.words)))
      .map(({ text, confidence, bbox }) => ({
        text: text.slice(0, 60),
        sure: Math.min(1, Math.max(0, confidence / 100)),
        box: {
          left: bbox.x0 / even.wide,
          top: bbox.y0 / even.high,
          right: Math.min(1, bbox.x1 / even.wide),
          bottom: Math.min(1, bbox.y1 / even.high),
        },
      }));
    all.push({ words: words.slice(0, 500) });
  }
  return all;
}
