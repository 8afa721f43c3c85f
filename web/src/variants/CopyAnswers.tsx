import { useState } from 'react';
import type { Evaluation, Text } from '../api/types';
import { Button } from '../theme/primitives';
import { formatQuantity, shown } from '../units/format';
import type { Units } from '../units/quantities';
import { useUnits } from '../units/store';
import { useSession } from '../workbench/context';

function plain(text: Text, units: Units): string {
  return text
    .map((part) => {
      if (typeof part === 'string') return part;
      if (part.bare) return shown(part.value, part.quantity, units).number;
      return formatQuantity(part.value, part.quantity, units);
    })
    .join('');
}

/** The four answers and each case as text, in the reader's units. */
export function answersAsText(
  build: string,
  variant: string,
  evaluation: Evaluation,
  units: Units,
): string {
  const { radiator, airflow, thermostat, cap } = evaluation.answers;
  const lines = [`${build}, ${variant}: ${evaluation.verdict}`, ''];
  for (const [title, answer] of [
    ['Radiator', radiator],
    ['Airflow', airflow],
    ['Thermostat', thermostat],
    ['Cap', cap],
  ] as const)
    lines.push(`${title}: ${plain(answer.headline, units)} – ${plain(answer.sentence, units)}`);
  lines.push('');
  for (const entry of evaluation.cases)
    lines.push(`${entry.name} (${entry.verdict}): ${plain(entry.sentence ?? [], units)}`);
  lines.push('', 'A design aid: tested parts, local codes and a licensed technician come first.');
  return lines.join('\n');
}

export function CopyAnswers({
  evaluation,
  name,
}: {
  readonly evaluation: Evaluation;
  readonly name: string;
}) {
  const units = useUnits((u) => u.units);
  const build = useSession((s) => s.build.name);
  const [said, setSaid] = useState('Copy answers');
  return (
    <Button
      look="bare"
      minWidth="112px"
      onClick={async () => {
        try {
          await navigator.clipboard.writeText(answersAsText(build, name, evaluation, units));
          setSaid('Copied');
        } catch {
          setSaid('Browser refused');
        }
        setTimeout(() => setSaid('Copy answers'), 2000);
      }}
    >
      {said}
    </Button>
  );
}
