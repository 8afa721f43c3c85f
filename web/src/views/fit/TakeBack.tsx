import { Button } from '../../kit/primitives';

/** Takes back what was written by mistake: it stays in the log, and no longer counts. */
export function TakeBack({
  what,
  onPress,
}: {
  readonly what: string;
  readonly onPress: () => void;
}) {
  return (
    <Button
      look="bare"
      paddingInline="1"
      aria-label={`Take back: ${what}`}
      data-print="no"
      onClick={onPress}
    >
      take back
    </Button>
  );
}
