import { type ReactNode, useEffect, useState } from 'react';
import { photoAddress } from '../../model/api/fit';
import { keepPhoto, small, waitingPhoto } from '../../model/journal/photos';
import { FilePicker } from '../overlay/FilePicker';
import { Box, Words } from '../primitives';

/** Takes a picture with the camera, or a file; it is made small and kept here until it is sent. */
export function TakePhoto({
  label,
  onTaken,
}: {
  readonly label: string;
  readonly onTaken: (photo: string) => void;
}) {
  const [wrong, setWrong] = useState<string | null>(null);
  async function take(file: File) {
    setWrong(null);
    const picture = await small(file).catch(() => null);
    if (!picture) return setWrong('This is no picture that can be read.');
    const id = crypto.randomUUID();
    try {
      await keepPhoto(id, picture);
    } catch {
      return setWrong('This browser has no room for it, or keeps nothing: it was not taken.');
    }
    onTaken(id);
  }
  return (
    <>
      <FilePicker
        label={label}
        accept="image/*"
        camera
        look="bare"
        onFile={(file) => void take(file)}
      >
        photo
      </FilePicker>
      {wrong && (
        <Words role="alert" size="small" tone="fails">
          {wrong}
        </Words>
      )}
    </>
  );
}

/** What shows a photo, in whatever journal. */
interface Shown {
  readonly id: string;
  readonly at: string;
  readonly photo?: string | null;
}

export function Photos({
  entries,
  beside,
}: {
  readonly entries: readonly Shown[];
  /** What stands below a photo, by its entry's id. */
  readonly beside?: (id: string) => ReactNode;
}) {
  if (entries.length === 0) return null;
  return (
    <Box display="flex" flexWrap="wrap" gap="2" marginTop="3">
      {entries.map((one) => (
        <Box key={one.id}>
          <Photo id={one.photo ?? ''} at={one.at} />
          {beside?.(one.id)}
        </Box>
      ))}
    </Box>
  );
}

function Photo({ id, at }: { readonly id: string; readonly at: string }) {
  const [source, setSource] = useState<string | null>(null);
  useEffect(() => {
    let gone = false;
    void waitingPhoto(id).then((waiting) => {
      if (!gone) setSource(waiting ?? photoAddress(id));
    });
    return () => {
      gone = true;
    };
  }, [id]);
  if (source === null) return null;
  const taken = new Date(at).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' });
  return (
    <Box
      as="img"
      // @ts-expect-error an img of the house's own look
      src={source}
      alt={`Taken ${taken}`}
      maxWidth="160px"
      maxHeight="160px"
      borderRadius="soft"
      border="1px solid"
      borderColor="rule"
    />
  );
}
