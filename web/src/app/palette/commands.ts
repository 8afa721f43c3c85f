/** Everything that can be done from the keyboard, as one list for keys, palette and the list of shortcuts. */

export interface Command {
  readonly name: string;
  /** Heading in the palette and in the list of shortcuts. */
  readonly group: string;
  /** As pressed and as shown, such as "G" or "Ctrl+K". */
  readonly keys?: string;
  readonly run: () => void;
}

interface Pressed {
  readonly key: string;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
  readonly shiftKey: boolean;
  readonly altKey: boolean;
}

/** How pressed keys are written. Shift counts only with Ctrl: "?" is itself, whatever it takes to type it. */
export function keysOf(event: Pressed): string {
  const key = event.key.length === 1 ? event.key.toUpperCase() : event.key;
  if (event.altKey) return `Alt+${key}`;
  if (!(event.ctrlKey || event.metaKey)) return key;
  return `Ctrl+${event.shiftKey ? 'Shift+' : ''}${key}`;
}

/** Commands whose name or group holds every word typed, those that begin with it first. */
export function matching(commands: readonly Command[], typed: string): Command[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = commands.filter((command) => {
    const text = `${command.group} ${command.name}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
  const first = words[0] ?? '';
  const rank = (command: Command) => (command.name.toLowerCase().startsWith(first) ? 0 : 1);
  return first === '' ? found : [...found].sort((a, b) => rank(a) - rank(b));
}
