import { type ReactNode, useState } from 'react';
import { reasonOf } from '../../model/api/transport';
import { saveAs } from '../../model/document/buildFile';
import { Box, Button, Words } from '../primitives';

/** Saves what is made when it is pressed as a file; what stands in the way is said below. */
export function SaveFile({
  name,
  type,
  make,
  disabled = false,
  children,
}: {
  readonly name: string;
  readonly type: string;
  readonly make: () => Promise<string>;
  readonly disabled?: boolean;
  readonly children: ReactNode;
}) {
  const [trouble, setTrouble] = useState<string | null>(null);
  async function save() {
    setTrouble(null);
    try {
      saveAs(name, type, await make());
    } catch (error) {
      setTrouble(`There is no file: ${reasonOf(error as Error)}`);
    }
  }
  return (
    <Box>
      <Button disabled={disabled} onClick={() => void save()}>
        {children}
      </Button>
      {trouble && (
        <Words role="alert" size="small" tone="fails" display="block" maxWidth="240px">
          {trouble}
        </Words>
      )}
    </Box>
  );
}
