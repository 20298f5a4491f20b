import type { WrongStepView } from '@kindred-baton/contracts/progress/wrong-steps';

/** A step as an address names it: its test, the version and the place there that it is counted under. */
export const toStepKey = ({ test, version, index }: Pick<WrongStepView, 'test' | 'version' | 'index'>): string =>
  `${test.code}:${version}:${index + 1}`;
