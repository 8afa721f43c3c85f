/** Photos that are not sent yet: made small here, so that they fit in, and kept in the browser's database. */

import { del, get, set } from 'idb-keyval';
import { sendPhoto } from '../api/fit';
import { ProblemError } from '../api/transport';
import { kept } from './database';

const LONGEST = 1600; // pixels
const QUALITY = 0.82;
const photos = kept('ebbrin-photos');

/** A picture from the camera, made small: what is drawn anew carries no place and no serial number. */
export async function small(file: Blob): Promise<Blob> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  return new Promise((resolve, reject) => {
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error('It cannot be read.'))),
      'image/jpeg',
      QUALITY,
    );
  });
}

export async function keepPhoto(id: string, picture: Blob): Promise<void> {
  await set(id, picture, photos);
}

/** A photo that waits here, as an address that the page can show; null where it has been sent. */
export async function waitingPhoto(id: string): Promise<string | null> {
  const picture = await get<Blob>(id, photos).catch(() => undefined);
  if (!picture) return null;
  return new Promise((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => resolve(null);
    reader.readAsDataURL(picture);
  });
}

/** Send photos that wait, if they do; each is let go here once the server has it. One that it refuses stays in this
 * browser and keeps nothing else back. */
export async function sendPhotos(build: string, ids: readonly string[]): Promise<void> {
  for (const id of ids) {
    const picture = await get<Blob>(id, photos).catch(() => undefined);
    if (!picture) continue;
    try {
      await sendPhoto(id, build, picture);
    } catch (error) {
      if (error instanceof ProblemError && error.problem.status < 500) continue;
      throw error;
    }
    await del(id, photos);
  }
}

/** The photos that entries show. */
export const photosOf = (entries: readonly { readonly photo?: string | null }[]): string[] =>
  entries.flatMap((entry) => (entry.photo ? [entry.photo] : []));
