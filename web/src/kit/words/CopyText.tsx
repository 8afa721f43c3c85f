import { useState } from 'react';
import { Button } from '../primitives';

/** A button that puts a text on the clipboard and says whether that went well. */
export function CopyText({ text, says }: { readonly text: () => string; readonly says: string }) {
  const [said, setSaid] = useState(says);
  return (
    <Button
      look="bare"
      minWidth="112px"
      onClick={async () => {
        try {
          await navigator.clipboard.writeText(text());
          setSaid('Copied');
        } catch {
          setSaid('Browser refused');
        }
        setTimeout(() => setSaid(says), 2000);
      }}
    >
      {said}
    </Button>
  );
}
