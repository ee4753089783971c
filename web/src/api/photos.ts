import { Problem, problemOf, words, type Schemas } from './client';

/** How large a picture may be. */
const mostMegabytes = 12;

/**
 * Sends one picture to what it is of; the server takes all hidden data off and turns it upright. With an id it is kept
 * once, however often it is sent.
 */
export async function sendPhoto(of: string, file: File, id = '', shows = ''): Promise<Schemas['StorePhoto']> {
  if (file.size > mostMegabytes * 1024 * 1024)
    throw new Error(`${file.name} is too large: at most ${mostMegabytes} MB.`);
  const answer = await fetch(
    `/api/${of}/photos?${new URLSearchParams({ name: file.name, ...(id && { id }), ...(shows && { shows }) })}`,
    {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': file.type || 'application/octet-stream' },
    },
  ).catch((fault: unknown) => {
    throw new Problem(0, words(fault));
  });
  const body: unknown = await answer.json().catch(() => null);
  if (!answer.ok) throw problemOf(answer.status, body);
  return body as Schemas['StorePhoto'];
}

export const photoAt = (id: string) => `/api/photos/${id}/image`;
