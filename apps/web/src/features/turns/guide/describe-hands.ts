import type { AttemptView } from '@kindred-baton/contracts/turns/turn';

/** Whose each step was, where it was not all one person's: “steps 1 to 4 by north-1, 5 by Lea Marsh”; empty where nobody would ask. */
export function describeHands({ results, person }: Pick<AttemptView, 'results' | 'person'>): string {
  const parts: { by: string; from: number; to: number }[] = [];
  for (const { stepIndex, by, outcome } of [...results].sort((a, b) => a.stepIndex - b.stepIndex)) {
    const last = parts.at(-1);
    if (outcome === null) continue;
    if (last?.by === by && stepIndex === last.to + 1) last.to = stepIndex;
    else parts.push({ by, from: stepIndex, to: stepIndex });
  }
  if (parts.length === 0 || (parts.length === 1 && parts[0]?.by === person)) return '';
  const said = parts.map(({ by, from, to }) => `${from === to ? from + 1 : `${from + 1} to ${to + 1}`} by ${by}`).join(', ');
  return `${parts.length === 1 && parts[0]!.from === parts[0]!.to ? 'step' : 'steps'} ${said}`;
}
