import { Button, Slider } from 'antd';
import { useQueryClient } from '@tanstack/react-query';
import { lazy, useRef, useState } from 'react';
import { Later } from '../parts/Later';
import { ask, client, Problem, words, type Plate, type Schemas } from '../api/client';
import { at, usePhotos } from '../api/hooks';
import { keys } from '../api/keys';
import { photoAt, sendPhoto } from '../api/photos';
import { newId } from '../parts/id';
import { useNotes } from '../parts/notes';
import { keepPicture, keepsPhotos, usePending } from '../parts/outbox';
import './photos.css';

const ReadPhoto = lazy(() => import('../photo/ReadPhoto').then(m => ({ default: m.ReadPhoto })));

type Photo = Schemas['StorePhoto'];

/** Photos of a motor's plate or its machine's cabinet, with zoom and contrast; a plate may be read into its fields. */
export function Photos({
  motor,
  shows,
  plate,
}: {
  motor: string;
  shows: 'plate' | 'cabinet';
  plate?: { have: Plate; onRead: (fields: Partial<Plate>) => void };
}) {
  const queries = useQueryClient();
  const notes = useNotes();
  const list = usePhotos(motor);
  const [shown, setShown] = useState('');
  const [fault, setFault] = useState('');
  const [busy, setBusy] = useState(false);
  const [reading, setReading] = useState('');
  const pending = usePending(`photos ${motor}`, 'photos', motor);
  const waiting = pending.waiting.filter(w => (w.shows ?? 'plate') === shows);
  const pick = useRef<HTMLInputElement>(null);
  const photos = (list.data?.photos ?? []).filter(p => p.shows === shows);
  const photo = photos.find(p => p.id === shown) ?? photos.at(-1);
  const again = () => queries.invalidateQueries({ queryKey: keys.photos(motor) });
  const add = async (files: FileList | null) => {
    setBusy(true);
    setFault('');
    try {
      for (const file of files ?? []) {
        const id = newId();
        try {
          await sendPhoto(`motors/${motor}`, file, id, shows);
        } catch (e) {
          if (!(e instanceof Problem && e.status === 0 && keepsPhotos())) throw e;
          await keepPicture(id, file); // away from the server: it waits, and is sent once
          pending.add({ id, name: file.name, type: file.type, shows });
        }
      }
      setShown('');
    } catch (e) {
      setFault(words(e));
    }
    await again();
    setBusy(false);
    if (pick.current) pick.current.value = '';
  };
  const take = async (p: Photo) => {
    try {
      await ask(client.DELETE('/photos/{id}', at(p.id)));
      await again();
      const back = () =>
        ask(client.POST('/photos/{id}/restore', at(p.id)))
          .then(again)
          .then(() => notes.destroy(p.id));
      notes.info({
        key: p.id,
        title: 'The photo is taken away',
        duration: 20,
        actions: <Button onClick={() => void back()}>Undo</Button>,
      });
    } catch (e) {
      setFault(words(e));
    }
  };
  if (reading && plate)
    return (
      <Later wait={<p className="panel soft">Fetching what reads letters…</p>}>
        <ReadPhoto src={photoAt(reading)} have={plate.have} onRead={plate.onRead} onClose={() => setReading('')} />
      </Later>
    );
  return (
    <section className="panel photos">
      <header>
        <h2>Photo of the {shows}</h2>
        <input
          ref={pick}
          id="photo-file"
          aria-label={`Photo of the ${shows}, as a file`}
          tabIndex={-1}
          className="visually-hidden"
          type="file"
          accept="image/jpeg,image/png,image/webp"
          multiple
          onChange={e => void add(e.target.files)}
        />
        <Button size="small" loading={busy} onClick={() => pick.current?.click()}>
          Take or choose a photo
        </Button>
        {photos.length === 0 && (
          <span className="soft">from disk or the phone’s camera; the place it was taken is taken off</span>
        )}
      </header>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      {waiting.length > 0 && (
        <p className="soft">
          {waiting.map(w => w.name).join(', ')}: kept in this browser, and sent once the server is back.
        </p>
      )}
      {photo && (
        <View
          key={photo.id}
          photo={photo}
          onRead={plate && (() => setReading(photo.id))}
          onTake={() => void take(photo)}
        />
      )}
      {photos.length > 1 && (
        <div className="thumbs" role="group" aria-label="Photos">
          {photos.map((p, i) => (
            <button
              key={p.id}
              type="button"
              aria-pressed={p.id === photo?.id}
              aria-label={p.name || `Photo ${i + 1}`}
              onClick={() => setShown(p.id)}
            >
              <img src={photoAt(p.id)} alt="" loading="lazy" />
            </button>
          ))}
        </div>
      )}
    </section>
  );
}

function View({ photo, onRead, onTake }: { photo: Photo; onRead?: () => void; onTake: () => void }) {
  const [zoom, setZoom] = useState(1);
  const [contrast, setContrast] = useState(1);
  return (
    <>
      <div className="photo-view" tabIndex={0} role="group" aria-label="The photo; scroll to move over it">
        <img
          src={photoAt(photo.id)}
          alt={`The ${photo.shows}, ${photo.name || 'photo'}`}
          width={photo.width}
          height={photo.height}
          style={{ width: `${100 * zoom}%`, filter: `contrast(${contrast})` }}
        />
      </div>
      <div className="photo-tools">
        <label>
          Zoom
          <Slider ariaLabelForHandle="Zoom" min={1} max={6} step={0.25} value={zoom} onChange={setZoom} />
        </label>
        <label>
          Contrast
          <Slider ariaLabelForHandle="Contrast" min={0.5} max={3} step={0.1} value={contrast} onChange={setContrast} />
        </label>
        {onRead && (
          <Button type="primary" onClick={onRead}>
            Read the plate from it
          </Button>
        )}
        <Button onClick={onTake}>Take away</Button>
      </div>
    </>
  );
}
