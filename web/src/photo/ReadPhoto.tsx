import { Button, Input, Progress, Slider } from 'antd';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { ask, client, words, type Plate, type Schemas } from '../api/client';
import { useChoices } from '../api/hooks';
import { fieldName } from '../card/plateFields';
import { Sign } from '../parts/Verdicts';
import { drawn, wordsOf } from './letters';
import { greyOf, guessed, straightened, whole, type Corners, type Grey, type Spot } from './prepare';
import './reading.css';

/** How wide a photo is at most while it is read: letters of a plate are large enough in it. */
const mostWide = 1600;

/** The photo in shades of grey, turned by quarters of a turn. */
function grey(image: HTMLImageElement, quarters: number): Grey {
  const scale = Math.min(1, mostWide / Math.max(image.naturalWidth, image.naturalHeight));
  const [w, h] = [Math.round(image.naturalWidth * scale), Math.round(image.naturalHeight * scale)];
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = quarters % 2 === 0 ? [w, h] : [h, w];
  const to = canvas.getContext('2d', { willReadFrequently: true })!;
  to.translate(canvas.width / 2, canvas.height / 2);
  to.rotate((quarters * Math.PI) / 2);
  to.drawImage(image, -w / 2, -h / 2, w, h);
  return greyOf(to.getImageData(0, 0, canvas.width, canvas.height));
}

const cornerNames = ['Top left', 'Top right', 'Bottom right', 'Bottom left'];
const steps: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The photo with its four corners, each dragged or moved by the arrow keys. */
function Frame({ photo, corners, put }: { photo: Grey; corners: Corners; put: (c: Corners) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const picture = useMemo(() => drawn(photo).toDataURL('image/jpeg', 0.8), [photo]);
  const move = (i: number, to: Spot) =>
    put(
      corners.map((c, n) =>
        n === i ? { x: Math.max(0, Math.min(photo.wide, to.x)), y: Math.max(0, Math.min(photo.high, to.y)) } : c,
      ) as Corners,
    );
  const drag = (i: number) => (e: PointerEvent<HTMLButtonElement>) => {
    if (!e.currentTarget.hasPointerCapture(e.pointerId) || !box.current) return;
    const at = box.current.getBoundingClientRect();
    move(i, {
      x: ((e.clientX - at.left) / at.width) * photo.wide,
      y: ((e.clientY - at.top) / at.height) * photo.high,
    });
  };
  const key = (i: number) => (e: KeyboardEvent) => {
    const step = steps[e.key];
    if (!step) return;
    e.preventDefault();
    const far = photo.wide * (e.shiftKey ? 0.05 : 0.01);
    move(i, { x: corners[i]!.x + step[0] * far, y: corners[i]!.y + step[1] * far });
  };
  return (
    <div className="reading-photo" ref={box}>
      <img src={picture} alt="The photo in grey" draggable={false} />
      <svg viewBox={`0 0 ${photo.wide} ${photo.high}`} aria-hidden="true">
        <polygon points={corners.map(c => `${c.x},${c.y}`).join(' ')} />
      </svg>
      {corners.map((c, i) => (
        <button
          key={cornerNames[i]}
          type="button"
          className="corner"
          aria-label={`${cornerNames[i]} corner of the plate; arrow keys move it`}
          style={{ left: `${(100 * c.x) / photo.wide}%`, top: `${(100 * c.y) / photo.high}%` }}
          onPointerDown={e => e.currentTarget.setPointerCapture(e.pointerId)}
          onPointerMove={drag(i)}
          onKeyDown={key(i)}
        />
      ))}
    </div>
  );
}

/** The piece of a picture that a field came from, with a little around it. */
function Piece({ plate, box }: { plate: HTMLCanvasElement; box: Schemas['PlateBox'] }) {
  const at = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const [w, h] = [plate.width, plate.height];
    const room = (box.bottom - box.top) * h * 0.35;
    const left = Math.max(0, box.left * w - room);
    const top = Math.max(0, box.top * h - room);
    const wide = Math.min(w, box.right * w + room) - left;
    const high = Math.min(h, box.bottom * h + room) - top;
    const on = at.current;
    if (!on || !(wide > 1 && high > 1)) return;
    on.width = wide;
    on.height = high;
    on.getContext('2d')!.drawImage(plate, left, top, wide, high, 0, 0, wide, high);
  }, [plate, box]);
  return <canvas ref={at} className="piece" role="img" aria-label="The piece of the photo" />;
}

interface Read {
  seen: Schemas['SeenPlate'];
  plate: HTMLCanvasElement;
}

/**
 * Reads a plate from its photo, on this device. Nothing of it goes on the plate before it was confirmed beside the
 * piece of picture that it came from.
 */
export function ReadPhoto({
  src,
  have,
  onRead,
  onClose,
}: {
  src: string;
  have: Plate;
  onRead: (fields: Partial<Plate>) => void;
  onClose: () => void;
}) {
  const rest = useChoices().data?.rest ?? [];
  const [image, setImage] = useState<HTMLImageElement | null>(null);
  const [quarters, setQuarters] = useState(0);
  const photo = useMemo(() => (image ? grey(image, quarters) : null), [image, quarters]);
  const [moved, setMoved] = useState<{ of: Grey; corners: Corners } | null>(null);
  const guess = useMemo(() => (photo ? guessed(photo) : null), [photo]);
  const corners = (moved && moved.of === photo ? moved.corners : guess) ?? (photo ? whole(photo) : null);
  const [strength, setStrength] = useState(1);
  const [share, setShare] = useState<number | null>(null);
  const [fault, setFault] = useState('');
  const [read, setRead] = useState<Read | null>(null);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [right, setRight] = useState<Record<string, boolean>>({});
  useEffect(() => {
    const one = new Image();
    one.onload = () => setImage(one);
    one.onerror = () => setFault('The photo cannot be opened.');
    one.src = src;
    return () => {
      one.onload = one.onerror = null;
    };
  }, [src]);
  const look = async () => {
    if (!photo || !corners) return;
    setFault('');
    setShare(0);
    try {
      const readings = await wordsOf(photo, corners, strength, setShare);
      const seen = await ask(client.POST('/plates/seen', { body: { readings } }));
      setRead({ seen, plate: drawn(straightened(photo, corners)) });
      setTyped({});
      setRight({});
    } catch (e) {
      setFault(words(e));
    }
    setShare(null);
  };
  const fields = read?.seen.fields.filter(f => f.field in have) ?? [];
  const sound = fields.filter(f => f.doubts.length === 0);
  const says = (f: { field: string; text: string }) => typed[f.field] ?? f.text;
  const chosen = fields.filter(f => right[f.field] && says(f).trim() !== '');
  const put = () => {
    onRead(Object.fromEntries(chosen.map(f => [f.field, says(f).trim()])));
    onClose();
  };
  const take = (field: string, text: string) => {
    setTyped(was => ({ ...was, [field]: text }));
    setRight(was => ({ ...was, [field]: true }));
  };
  return (
    <section className="panel reading" aria-label="Read the plate from its photo">
      <header>
        <h2>Read the plate from its photo</h2>
        <span className="soft">on this device; what you confirm goes on the plate, nothing else</span>
        <Button size="small" onClick={onClose}>
          Close
        </Button>
      </header>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      <div className="reading-pair">
        <div>
          {photo && corners ? (
            <Frame photo={photo} corners={corners} put={to => setMoved({ of: photo, corners: to })} />
          ) : (
            <p className="soft">Opening the photo…</p>
          )}
          <div className="reading-tools">
            <label>
              Contrast
              <Slider
                ariaLabelForHandle="Contrast of the reading"
                min={0.5}
                max={2}
                step={0.1}
                value={strength}
                onChange={setStrength}
              />
            </label>
            <Button onClick={() => setQuarters(q => (q + 1) % 4)}>Turn</Button>
            <Button onClick={() => setMoved(null)} disabled={!moved}>
              Guess the corners
            </Button>
            <Button type="primary" loading={share !== null} disabled={!photo} onClick={() => void look()}>
              {read ? 'Read again' : 'Read it'}
            </Button>
          </div>
          {share !== null && <Progress percent={Math.round(100 * share)} showInfo={false} aria-label="Reading" />}
        </div>
        <div className="reading-fields">
          {!read && (
            <p className="soft">
              Put the corners on those of the plate, or leave them as guessed, and read it. Printed plates are read
              best; what is worn or embossed is typed as fast beside its photo.
            </p>
          )}
          {read && fields.length === 0 && (
            <p>
              <b>Nothing of it was read.</b> Move the corners closer around the figures, change the contrast, or type
              the plate beside its photo.
            </p>
          )}
          {read && fields.length > 0 && (
            <ul>
              {fields.map(f => (
                <li key={f.field} className={right[f.field] ? 'right' : f.doubts.length > 0 ? 'doubt' : ''}>
                  <p>
                    <label htmlFor={`seen-${f.field}`}>{fieldName(f.field, rest)}</label>{' '}
                    <span className="soft">seen to {Math.round(100 * f.sure)} %</span>
                    {f.doubts.length > 0 && <b> · look closely: {f.doubts.join('; ')}</b>}
                  </p>
                  <div className="reading-field">
                    <Piece plate={read.plate} box={f.box} />
                    <Input
                      id={`seen-${f.field}`}
                      className="figures"
                      value={says(f)}
                      maxLength={80}
                      spellCheck={false}
                      onChange={e => take(f.field, e.target.value)}
                    />
                    <Button
                      aria-pressed={!!right[f.field]}
                      type={right[f.field] ? 'primary' : 'default'}
                      onClick={() => setRight(was => ({ ...was, [f.field]: !was[f.field] }))}
                    >
                      {right[f.field] ? 'Right ✓' : 'Right'}
                    </Button>
                  </div>
                  {f.else.map(other => (
                    <Button key={other} size="small" className="figures" onClick={() => take(f.field, other)}>
                      {other}
                    </Button>
                  ))}
                </li>
              ))}
            </ul>
          )}
          {read && fields.length > 0 && (
            <div className="reading-end">
              {sound.some(f => !right[f.field]) && (
                <Button
                  onClick={() =>
                    setRight(was => ({ ...was, ...Object.fromEntries(sound.map(f => [f.field, true] as const)) }))
                  }
                >
                  The {sound.length} that are clear are right
                </Button>
              )}
              <Button type="primary" disabled={chosen.length === 0} onClick={put}>
                {chosen.length === 1 ? 'Put 1 on the plate' : `Put ${chosen.length} on the plate`}
              </Button>
            </div>
          )}
          {read?.seen.verdicts.map(v => (
            <p key={v.rule} className="read-verdict">
              <Sign severity={v.severity} size={16} /> {v.says} {v.do}
            </p>
          ))}
        </div>
      </div>
    </section>
  );
}
