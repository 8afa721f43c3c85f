import { Labelled } from '../kit/field/Labelled';
import { Dialog } from '../kit/overlay/Dialog';
import { Grid, Paragraph, Select, Words } from '../kit/primitives';
import { type Kind, kinds, shownUnit, type UnitSet } from '../model/units/quantities';
import { useUnits } from '../model/units/store';
import { CurrencyField } from './Currency';

const SETS: Record<UnitSet, string> = {
  metric: 'metric',
  us: 'US units',
  mixed: 'mixed: °C, psi, mph, hp',
};

const choosable = (Object.entries(kinds) as [string, Kind][]).filter(
  ([, kind]) => kind.units.length > 1,
);

/** The unit set in one select, as it stands in the header; "own" says that single quantities differ. */
export function UnitSetSelect() {
  const { units, choose } = useUnits();
  return (
    <Select
      aria-label="Units"
      width="auto"
      value={units.set}
      onChange={(event) => choose(event.target.value as UnitSet)}
    >
      {(Object.keys(SETS) as UnitSet[]).map((set) => (
        <option key={set} value={set}>
          {set === 'us' ? 'US units' : set}
          {set === units.set && Object.keys(units.own).length > 0 ? ', own' : ''}
        </option>
      ))}
    </Select>
  );
}

/** Every quantity with the unit that it is shown in. */
export function UnitsDialog({ onClose }: { readonly onClose: () => void }) {
  const { units, choose, chooseFor } = useUnits();
  return (
    <Dialog title="Units" onClose={onClose}>
      <Paragraph tone="quiet" marginBottom="3">
        Only how numbers are shown and read; any unit can be typed anywhere. A difference of
        temperatures is not a temperature: 10 K are 18 F°.
      </Paragraph>
      <Labelled
        orientation="horizontal"
        marginBottom="4"
        label="Set"
        beside={
          <Words size="small" tone="quiet" alignSelf="center">
            Choosing a set clears what is set by itself below.
          </Words>
        }
      >
        <Select
          width="auto"
          value={units.set}
          onChange={(event) => choose(event.target.value as UnitSet)}
        >
          {Object.entries(SETS).map(([set, name]) => (
            <option key={set} value={set}>
              {name}
            </option>
          ))}
        </Select>
      </Labelled>
      <CurrencyField />
      <Grid gridTemplateColumns="repeat(2, minmax(0, 1fr))" columnGap="6" rowGap="2">
        {choosable.map(([name, kind]) => (
          <Labelled
            key={name}
            orientation="horizontal"
            justifyContent="space-between"
            label={
              <Words fontWeight={name in units.own ? 'strong' : 'plain'}>
                {name.replaceAll('_', ' ')}
              </Words>
            }
          >
            <Select
              width="112px"
              value={shownUnit(name, units).symbol}
              onChange={(event) =>
                chooseFor(
                  name,
                  event.target.value === kind.shown[units.set] ? null : event.target.value,
                )
              }
            >
              {kind.units.map((unit) => (
                <option key={unit.symbol}>{unit.symbol}</option>
              ))}
            </Select>
          </Labelled>
        ))}
      </Grid>
    </Dialog>
  );
}
