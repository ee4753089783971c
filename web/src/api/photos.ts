import { problemOf, type Schemas } from './client';

/** How large a picture may be. */
const mostMegabytes = 12;

/** Sends one picture to what it is of; the server takes all hidden data off and turns it upright. */
export async function sendPhoto(of: string, file: File): Promise<Schemas['StorePhoto']> {
  if (file.size > mostMegabytes * 1024 * 1024)
    throw new Error(`${file.name} is too large: at most ${mostMegabytes} MB.`);
  const answer = await fetch(`/api/${of}/photos?name=${encodeURIComponent(file.name)}`, {
    method: 'POST',
    body: file,
    headers: { 'Content-Type': file.type || 'application/octet-stream' },
  });
  const body: unknown = await answer.json().catch(() => null);
  if (!answer.ok) throw problemOf(answer.status, body);
  return body as Schemas['StorePhoto'];
}

export const photoAt = (id: string) => `/api/photos/${id}/image`;
