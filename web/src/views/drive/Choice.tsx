import { useState } from 'react';
import { Button, Input, Row, Station } from '../../kit/primitives';
import type { Drive } from '../../model/api/types';
import { MOST_DRIVES } from '../../model/document/drives';

/** The drives of the build: which one is driven, and what can be done with it. */
export function Choice({
  drives,
  index,
  onChoose,
  onRename,
  onAdd,
  onRemove,
}: {
  readonly drives: readonly Drive[];
  readonly index: number;
  readonly onChoose: (index: number) => void;
  readonly onRename: (name: string) => void;
  readonly onAdd: (same: boolean) => void;
  readonly onRemove: () => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const full = drives.length >= MOST_DRIVES;
  return (
    <Row gap="1" flexWrap="wrap" role="group" aria-label="Drives">
      {drives.map((drive, i) => (
        <Station
          key={drive.id}
          aria-pressed={i === index}
          padding="0"
          paddingInline="3"
          borderWidth="1px"
          maxWidth="320px"
          overflow="hidden"
          textOverflow="ellipsis"
          whiteSpace="nowrap"
          title={drive.name}
          onClick={() => {
            setText(null);
            onChoose(i);
          }}
        >
          {drive.name}
        </Station>
      ))}
      {text === null ? (
        <>
          <Button look="bare" disabled={full} onClick={() => onAdd(false)}>
            New
          </Button>
          <Button look="bare" disabled={full} onClick={() => onAdd(true)}>
            Duplicate
          </Button>
          <Button look="bare" onClick={() => setText(drives[index]?.name ?? '')}>
            Rename
          </Button>
          <Button look="bare" disabled={drives.length < 2} onClick={onRemove}>
            Remove
          </Button>
        </>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (text.trim()) onRename(text.trim());
            setText(null);
          }}
        >
          <Row gap="1">
            <Input
              autoFocus
              aria-label="Name of the drive"
              value={text}
              maxLength={120}
              width="240px"
              onFocus={(event) => event.target.select()}
              onChange={(event) => setText(event.target.value)}
              onKeyDown={(event) => {
                if (event.key !== 'Escape') return;
                event.stopPropagation();
                setText(null);
              }}
            />
            <Button type="submit" look="main" disabled={text.trim() === ''}>
              Done
            </Button>
          </Row>
        </form>
      )}
    </Row>
  );
}
