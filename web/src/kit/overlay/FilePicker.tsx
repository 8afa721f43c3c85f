import { type ComponentProps, useRef } from 'react';
import { Button } from '../primitives';

/** A button that asks for a file; the same one can be chosen again after it was mended. */
export function FilePicker({
  label,
  accept,
  camera = false,
  onFile,
  ...button
}: {
  /** Names the input that the button opens. */
  readonly label: string;
  readonly accept: string;
  /** Whether a phone opens its camera. */
  readonly camera?: boolean;
  readonly onFile: (file: File) => void;
} & Omit<ComponentProps<typeof Button>, 'onClick'>) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        hidden
        accept={accept}
        capture={camera ? 'environment' : undefined}
        aria-label={label}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) onFile(file);
        }}
      />
      <Button {...button} onClick={() => input.current?.click()} />
    </>
  );
}
