import { useId } from 'react';
import { useNumberText } from '../kit/field/useNumberText';
import { Box, Input, Words } from '../kit/primitives';
import { fieldSpec } from '../model/document/fields';
import { shownUnit } from '../model/units/quantities';

/** Ambient or altitude of the whole build, in the header. */
export function SiteField({ path }: { readonly path: string }) {
  const id = useId();
  const spec = fieldSpec(path);
  const { text, wrong, change, leave, units } = useNumberText(path);
  return (
    <Box position="relative" display="flex" alignItems="center" gap="1">
      <label htmlFor={id}>
        <Words size="small" tone="quiet">
          {spec.title.toLowerCase()}
        </Words>
      </label>
      <Input
        id={id}
        width="76px"
        paddingInline="2"
        textAlign="right"
        value={text}
        autoComplete="off"
        aria-invalid={wrong !== null || undefined}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        data-path={path}
        onChange={(event) => change(event.target.value)}
        onBlur={leave}
      />
      <Words size="small" tone="quiet" minWidth="18px">
        {shownUnit(spec.quantity, units).symbol}
      </Words>
      {wrong && (
        <Words
          id={`${id}-wrong`}
          role="alert"
          size="small"
          tone="fails"
          position="absolute"
          top="100%"
          right="0"
          background="failsSoft"
          padding="2"
          borderRadius="soft"
          zIndex="2"
          whiteSpace="nowrap"
        >
          {wrong}
        </Words>
      )}
    </Box>
  );
}
