import { CopyText } from '../kit/words/CopyText';
import type { Evaluation } from '../model/api/types';
import { useSession } from '../model/save/context';
import type { Units } from '../model/units/quantities';
import { useUnits } from '../model/units/store';
import { plainText } from '../model/words/plainText';

/** The four answers and each case as text, in the reader's units. */
export function answersAsText(
  build: string,
  variant: string,
  evaluation: Evaluation,
  units: Units,
  current = true,
): string {
  const { radiator, airflow, thermostat, cap } = evaluation.answers;
  const lines = [`${build}, ${variant}: ${evaluation.verdict}`, ''];
  for (const [title, answer] of [
    ['Radiator', radiator],
    ['Airflow', airflow],
    ['Thermostat', thermostat],
    ['Cap', cap],
  ] as const)
    lines.push(
      `${title}: ${plainText(answer.headline, units)} – ${plainText(answer.sentence, units)}`,
    );
  lines.push('');
  for (const entry of evaluation.cases)
    lines.push(`${entry.name} (${entry.verdict}): ${plainText(entry.sentence, units)}`);
  const warned = evaluation.findings.filter((finding) => finding.kind === 'warning');
  if (warned.length > 0) lines.push('');
  for (const finding of warned) lines.push(`Mind: ${plainText(finding.text, units)}`);
  if (!current) lines.push('', 'The last valid result: what was changed since is not judged yet.');
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
  const current = useSession((s) => s.current);
  return (
    <CopyText
      text={() => answersAsText(build, name, evaluation, units, current)}
      says="Copy answers"
    />
  );
}
