import { useEffect } from 'react';
import { useKeys } from '../../kit/page/keys';
import { type Command, keysOf } from './commands';

/** Runs the command whose keys are pressed, unless a field is being typed in or a sheet is open. */
export function useShortcuts(commands: readonly Command[]) {
  const single = useKeys((k) => k.single);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      const typing = target?.matches(
        'input:not([type=range]):not([type=checkbox]), textarea, select',
      );
      const keys = keysOf(event);
      const command = commands.find((entry) => entry.keys === keys);
      // In a field only these two mean something: everything else is text, or the field's own undo.
      if (
        !command ||
        (!single && keys.length === 1) ||
        (typing && keys !== 'Ctrl+K' && keys !== 'Escape') ||
        document.querySelector('dialog[open]')
      )
        return;
      event.preventDefault();
      // What is typed next belongs to the page, not to a field that is about to go.
      // The palette gives the focus back when it goes.
      if (typing && keys !== 'Ctrl+K') target?.blur();
      command.run();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [commands, single]);
}
