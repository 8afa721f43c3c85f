import { chakra, FileUpload, useFileUpload } from '@chakra-ui/react';
import type { ComponentProps } from 'react';
import { Button } from '../primitives';

const Place = chakra(FileUpload.RootProvider, { base: { display: 'contents' } });

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
  const upload = useFileUpload({
    maxFiles: 1,
    capture: camera ? 'environment' : undefined,
    // What kind of file it is, and what is wrong with it, says whoever reads it.
    onFileChange: ({ acceptedFiles, rejectedFiles }) => {
      const file = acceptedFiles[0] ?? rejectedFiles[0]?.file;
      if (!file) return;
      upload.clearFiles();
      upload.clearRejectedFiles();
      onFile(file);
    },
  });
  return (
    <Place value={upload}>
      <FileUpload.HiddenInput hidden accept={accept} aria-label={label} />
      <FileUpload.Trigger asChild>
        <Button {...button} />
      </FileUpload.Trigger>
    </Place>
  );
}
