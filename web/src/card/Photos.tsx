import { App, Button, Slider } from 'antd';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { ask, client, words, type Schemas } from '../api/client';
import { at, usePhotos } from '../api/hooks';
import { keys } from '../api/keys';
import { sendPhoto } from '../api/photos';
import './photos.css';

type Photo = Schemas['StorePhoto'];

/** Photos of the plate beside its fields, with zoom and contrast. */
export function Photos({ motor }: { motor: string }) {
  const queries = useQueryClient();
  const { notification } = App.useApp();
  const list = usePhotos(motor);
  const [shown, setShown] = useState('');
  const [fault, setFault] = useState('');
  const [busy, setBusy] = useState(false);
  const pick = useRef<HTMLInputElement>(null);
  const photos = list.data?.photos ?? [];
  const photo = photos.find(p => p.id === shown) ?? photos.at(-1);
  const again = () => queries.invalidateQueries({ queryKey: keys.photos(motor) });
  const add = async (files: FileList | null) => {
    setBusy(true);
    setFault('');
    try {
      for (const file of files ?? []) {
        await sendPhoto(`motors/${motor}`, file);
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
          .then(() => notification.destroy(p.id));
      notification.info({
        key: p.id,
        title: 'The photo is taken away',
        duration: 20,
        actions: <Button onClick={() => void back()}>Undo</Button>,
      });
    } catch (e) {
      setFault(words(e));
    }
  };
  return (
    <section className="panel photos">
      <header>
        <h2>Photo of the plate</h2>
        <input
          ref={pick}
          id="photo-file"
          aria-label="Photo of the plate, as a file"
          tabIndex={-1}
          className="visually-hidden"
          type="file"
          accept="image/jpeg,image/png,image/webp"
          multiple
          onChange={e => void add(e.target.files)}
        />
        <Button size="small" loading={busy} onClick={() => pick.current?.click()}>
          Attach a photo
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
      {photo && <View key={photo.id} photo={photo} onTake={() => void take(photo)} />}
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
              <img src={`/api/photos/${p.id}/image`} alt="" loading="lazy" />
            </button>
          ))}
        </div>
      )}
    </section>
  );
}

function View({ photo, onTake }: { photo: Photo; onTake: () => void }) {
  const [zoom, setZoom] = useState(1);
  const [contrast, setContrast] = useState(1);
  return (
    <>
      <div className="photo-view" tabIndex={0} role="group" aria-label="The photo; scroll to move over it">
        <img
          src={`/api/photos/${photo.id}/image`}
          alt={`Plate, ${photo.name || 'photo'}`}
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
        <Button onClick={onTake}>Take away</Button>
      </div>
    </>
  );
}
