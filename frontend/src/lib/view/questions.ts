/** The questions that Progress answers, and by which measures. */
import type { TrendShown } from './trends';

export const QUESTIONS = [
  {
    id: 'intonation',
    title: 'Intonation',
    measures: ['pitch', 'pitch_signed', 'pitch_drift', 'pitch_wobble', 'attack'],
  },
  { id: 'flexibility', title: 'Flexibility', measures: ['pace', 'clipped_partial', 'gap', 'trill'] },
  { id: 'sound', title: 'Sound', measures: ['tone_match', 'level_wobble', 'response'] },
  { id: 'endurance', title: 'Endurance', measures: ['hold', 'pedals'] },
] as const;

/** The trends of a question as a whole, those with enough days first; and the same by register, loudness, exercise. */
export function trendsOf(trends: readonly TrendShown[], measures: readonly string[]) {
  const ours = trends
    .filter((item) => measures.includes(item.measure.id))
    .sort((a, b) => measures.indexOf(a.measure.id) - measures.indexOf(b.measure.id));
  const whole = ours.filter((item) => !item.trend.scope);
  const first = whole.find((item) => !item.trend.missing) ?? whole[0] ?? null;
  return { first, more: whole.filter((item) => item !== first), scoped: ours.filter((item) => item.trend.scope) };
}
