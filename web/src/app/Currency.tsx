import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Labelled } from '../kit/field/Labelled';
import { Input } from '../kit/primitives';
import { saveSettings } from '../model/api/client';
import { readAgain, settingsQuery } from '../model/api/queries';
import { useUnits } from '../model/units/store';

const LONGEST = 8;

/** Keeps prices in the workshop's currency. */
export function useCurrency(): void {
  const settings = useQuery(settingsQuery());
  const currency = settings.data?.currency;
  useEffect(() => {
    if (currency !== undefined) useUnits.getState().setCurrency(currency);
  }, [currency]);
}

/** The currency of this workshop, for all its builds. */
export function CurrencyField() {
  const queries = useQueryClient();
  const kept = useUnits((choice) => choice.units.currency ?? '');
  const [typed, setTyped] = useState<string | null>(null);
  const save = useMutation({
    mutationFn: (currency: string) => saveSettings({ currency }),
    onSuccess: async (saved) => {
      useUnits.getState().setCurrency(saved.currency ?? '');
      await readAgain(queries, ['settings']);
      setTyped(null);
    },
  });
  return (
    <Labelled
      orientation="horizontal"
      marginBottom="4"
      label="Prices of this workshop are in"
      wrong={save.isError && `Not stored: ${save.error.message} What you typed is still here.`}
    >
      <Input
        width="96px"
        maxLength={LONGEST}
        placeholder="nothing"
        autoComplete="off"
        value={typed ?? kept}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => typed !== null && typed.trim() !== kept && save.mutate(typed.trim())}
      />
    </Labelled>
  );
}
