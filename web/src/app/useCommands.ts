import { useMemo } from 'react';
import { useNavigate } from 'react-router';
import { useKeys } from '../kit/page/keys';
import { addressIn } from '../kit/page/place';
import { useMode } from '../kit/theme/mode';
import { download } from '../model/document/buildFile';
import { duplicated, FULL, MOST_VARIANTS } from '../model/document/edit';
import { type StationName, stationNames, stations } from '../model/document/stations';
import { usePlaces } from '../model/places';
import { useOpened, useSession } from '../model/save/context';
import { unitSets } from '../model/units/quantities';
import { useUnits } from '../model/units/store';
import { plainText } from '../model/words/plainText';
import { usePull } from '../views/loop/usePull';
import { places } from './manifest';
import type { Command } from './palette/commands';

export type SheetName = 'palette' | 'keys' | 'units' | 'words';

const STATION_KEYS: Record<StationName, string> = {
  engine: 'E',
  coolant: 'C',
  radiator: 'R',
  air: 'A',
  flow: 'P',
  thermostat: 'T',
  cap: 'B',
};

/** All that can be done with the opened build, for keys and palette. */
export function useCommands(
  show: (sheet: SheetName) => void,
  /** Says why something was not done; null where it was. */
  refuse: (why: string | null) => void,
): Command[] {
  const to = usePlaces();
  const pull = usePull();
  const levers = useSession((s) => s.further?.levers ?? null);
  const navigate = useNavigate();
  const session = useOpened();
  const cases = useSession((s) => s.build.cases);
  const variants = useSession((s) => s.build.variants);
  const units = useUnits((u) => u.choose);
  const shownUnits = useUnits((u) => u.units);
  const keys = useKeys((k) => k.turn);
  const mode = useMode((m) => m.choose);
  return useMemo(() => {
    const state = session.getState;
    const step = (by: number) => {
      const { build, variant } = state();
      const next = build.variants[(variant + by + build.variants.length) % build.variants.length];
      if (next) to.showVariant(next.id, undefined, true);
    };
    const nextCase = (by: number) => {
      const { evaluation } = state();
      const ids = evaluation?.cases.map((entry) => entry.id) ?? [];
      const shown = new URLSearchParams(window.location.search).get('case') ?? ids[0] ?? '';
      const id = ids[(Math.max(ids.indexOf(shown), 0) + by + ids.length) % ids.length];
      if (id) to.showCase(id, true);
    };
    const commands: Command[] = [
      ...stationNames.map((station) => ({
        name: stations[station].title,
        group: 'Open',
        keys: STATION_KEYS[station],
        run: () => to.to(`stations/${station}`),
      })),
      ...places.flatMap((place) =>
        place.command
          ? [{ ...place.command, group: 'Open', run: () => to.to(addressIn(place)) }]
          : [],
      ),
      { name: 'It boils right now: what to do', group: 'Open', run: () => navigate('/road') },
      { name: 'Words: what they mean', group: 'Look', run: () => show('words') },
      { name: 'The shelf', group: 'Open', run: () => navigate('/shelf') },
      { name: 'All builds', group: 'Open', run: () => navigate('/') },
      { name: 'Next case', group: 'Look', keys: 'J', run: () => nextCase(1) },
      { name: 'Case before', group: 'Look', keys: 'K', run: () => nextCase(-1) },
      { name: 'Next variant', group: 'Look', keys: ']', run: () => step(1) },
      { name: 'Variant before', group: 'Look', keys: '[', run: () => step(-1) },
      {
        name: 'What if: another ambient or altitude',
        group: 'Look',
        keys: 'W',
        run: () => {
          const { whatIf, build, tryAt } = state();
          tryAt(whatIf ? null : (build.site ?? null));
        },
      },
      {
        name: 'Duplicate the variant',
        group: 'Change',
        keys: 'V',
        run: () => {
          const { build, variant, setBuild } = state();
          const shown = build.variants[variant];
          if (build.variants.length >= MOST_VARIANTS) return refuse(FULL);
          if (!shown) return;
          const next = duplicated(build, shown.id);
          setBuild(next);
          to.showVariant(next.variants.at(-1)?.id ?? shown.id);
        },
      },
      { name: 'Undo', group: 'Change', keys: 'Ctrl+Z', run: () => state().undo() },
      { name: 'Redo', group: 'Change', keys: 'Ctrl+Shift+Z', run: () => state().redo() },
      { name: 'Export the build as a file', group: 'Change', run: () => download(state().build) },
      { name: 'Any command', group: 'Help', keys: 'Ctrl+K', run: () => show('palette') },
      { name: 'These keys', group: 'Help', keys: '?', run: () => show('keys') },
      { name: 'Units, one by one', group: 'Help', keys: 'U', run: () => show('units') },
      ...unitSets.map((set) => ({
        name: `Units: ${set === 'us' ? 'US' : set}`,
        group: 'Help',
        run: () => units(set),
      })),
      { name: 'Single keys on or off', group: 'Help', run: () => keys() },
      { name: 'Light', group: 'Help', run: () => mode('light') },
      { name: 'Dark', group: 'Help', run: () => mode('dark') },
      ...cases.map((entry) => ({
        name: entry.name,
        group: 'Edit case',
        run: () => to.to(`cases/${entry.id}`, entry.id),
      })),
      ...variants.map((entry) => ({
        name: entry.name,
        group: 'Show variant',
        run: () => to.showVariant(entry.id),
      })),
    ];
    for (const lever of levers ?? [])
      commands.push({
        name: plainText(lever.text, shownUnits),
        group: 'Try a lever',
        run: () => void pull(lever.name).then(refuse),
      });
    return commands;
  }, [
    session,
    cases,
    variants,
    levers,
    units,
    shownUnits,
    mode,
    keys,
    navigate,
    to,
    pull,
    show,
    refuse,
  ]);
}
