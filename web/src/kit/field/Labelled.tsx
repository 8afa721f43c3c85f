import { defineSlotRecipe, Field } from '@chakra-ui/react';
import { type ComponentProps, type ReactNode, useEffect, useRef } from 'react';
import { Box, FieldUnit, Row, Tick, Words } from '../primitives';

export const fieldRecipe = defineSlotRecipe({
  slots: ['root', 'label', 'helperText', 'errorText'],
  base: {
    root: { display: 'grid', gap: '1', alignContent: 'start' },
    label: { display: 'inline-block', textStyle: 'body', fontWeight: 'firm' },
    helperText: { textStyle: 'small', color: 'quiet' },
    errorText: { textStyle: 'small', color: 'fails', fontWeight: 'firm' },
  },
  variants: {
    orientation: {
      vertical: {},
      /** In a line that has no room below: what is wrong hangs under it. */
      horizontal: {
        root: { position: 'relative', display: 'flex', alignItems: 'center', gap: '2' },
        label: { fontWeight: 'plain' },
        errorText: {
          position: 'absolute',
          top: '100%',
          right: '0',
          zIndex: 'hanging',
          padding: '2',
          background: 'failsSoft',
          borderRadius: 'soft',
          width: 'max-content',
          maxWidth: '340px',
        },
      },
    },
  },
});

/** Something to be filled in under its label, with its unit, what is wrong with it, and help: tied together for whoever hears the page. */
export function Labelled({
  label,
  quiet = false,
  unit,
  wrong,
  help,
  beside,
  children,
  ...place
}: {
  readonly label: ReactNode;
  /** A small label, where the field itself says most. */
  readonly quiet?: boolean;
  readonly unit?: ReactNode;
  readonly wrong?: ReactNode;
  readonly help?: ReactNode;
  /** What stands on the field's line, behind it. */
  readonly beside?: ReactNode;
  /** The field: an Input, Select, Tick or Slider. */
  readonly children: ReactNode;
} & Omit<ComponentProps<typeof Field.Root>, 'label'>) {
  const said = useRef<HTMLDivElement>(null);
  const bad = Boolean(wrong);
  useEffect(() => {
    // Who types at the edge of the screen sees what is wrong as well as the field.
    const inField = said.current?.parentElement?.contains(document.activeElement);
    if (bad && inField) said.current?.scrollIntoView({ block: 'nearest' });
  }, [bad]);
  const field =
    unit === undefined ? (
      children
    ) : (
      <Box position="relative" flex="1">
        {children}
        <FieldUnit aria-hidden="true">{unit}</FieldUnit>
      </Box>
    );
  return (
    <Field.Root invalid={bad} {...place}>
      <Field.Label>{quiet ? <Words size="small">{label}</Words> : label}</Field.Label>
      {beside === undefined ? (
        field
      ) : (
        <Box display="flex" gap="2">
          {field}
          {beside}
        </Box>
      )}
      {wrong && (
        <Field.ErrorText ref={said} role="alert">
          {wrong}
        </Field.ErrorText>
      )}
      {help && <Field.HelperText>{help}</Field.HelperText>}
    </Field.Root>
  );
}

/** A box to tick with its words behind it. */
export function TickField({
  label,
  help,
  ...tick
}: { readonly label: ReactNode; readonly help?: ReactNode } & ComponentProps<typeof Tick>) {
  return (
    <Field.Root>
      <Row gap="2" minHeight="target">
        <Tick {...tick} />
        <Field.Label>{label}</Field.Label>
      </Row>
      {help && <Field.HelperText>{help}</Field.HelperText>}
    </Field.Root>
  );
}
