import { Labelled } from '../kit/field/Labelled';
import { useNumberText } from '../kit/field/useNumberText';
import { Input, Words } from '../kit/primitives';
import { fieldSpec } from '../model/document/fields';
import { shownUnit } from '../model/units/quantities';

/** Ambient or altitude of the whole build, in the header. */
export function SiteField({ path }: { readonly path: string }) {
  const spec = fieldSpec(path);
  const { text, wrong, change, leave, units } = useNumberText(path);
  return (
    <Labelled
      orientation="horizontal"
      gap="1"
      label={
        <Words size="small" tone="quiet">
          {spec.title.toLowerCase()}
        </Words>
      }
      wrong={wrong}
      beside={
        <Words size="small" tone="quiet" minWidth="18px" alignSelf="center">
          {shownUnit(spec.quantity, units).symbol}
        </Words>
      }
    >
      <Input
        width="76px"
        paddingInline="2"
        textAlign="right"
        value={text}
        autoComplete="off"
        data-path={path}
        onChange={(event) => change(event.target.value)}
        onBlur={leave}
      />
    </Labelled>
  );
}
