import { Button } from 'antd';
import { useRef, useState } from 'react';
import { words } from '../api/client';
import { photoAt, sendPhoto } from '../api/photos';
import './picture.css';

/** A picture of a shop: it is kept with what names it once that is. */
export function Picture({
  id,
  alt,
  shop,
  photo,
  change,
}: {
  id: string;
  alt: string;
  shop: string;
  photo: string;
  change: (photo: string) => void;
}) {
  const [fault, setFault] = useState('');
  const [busy, setBusy] = useState(false);
  const pick = useRef<HTMLInputElement>(null);
  const take = async (file?: File) => {
    if (!file) return;
    setBusy(true);
    setFault('');
    try {
      change((await sendPhoto(`shops/${shop}`, file)).id);
    } catch (e) {
      setFault(words(e));
    }
    setBusy(false);
  };
  return (
    <div className="labelled">
      <label htmlFor={id}>Picture</label>
      {photo && <img className="likeness large" src={photoAt(photo)} alt={alt} />}
      <input
        ref={pick}
        id={id}
        className="visually-hidden"
        type="file"
        tabIndex={-1}
        accept="image/jpeg,image/png,image/webp"
        onChange={e => void take(e.target.files?.[0])}
      />
      <span className="links">
        <Button size="small" loading={busy} onClick={() => pick.current?.click()}>
          {photo ? 'Another picture' : 'Take a picture'}
        </Button>
        {photo && (
          <Button size="small" type="text" onClick={() => change('')}>
            Without one
          </Button>
        )}
      </span>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
    </div>
  );
}
