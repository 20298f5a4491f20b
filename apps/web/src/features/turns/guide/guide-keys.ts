export const GUIDE_KEYS = [
  { keys: '1', does: 'It worked' },
  { keys: '2', does: 'It did not' },
  { keys: '3', does: 'I cannot go on' },
  { keys: '4', does: 'Leave it out' },
  { keys: '← →', does: 'Step back and on' },
  { keys: 'A', does: 'All steps' },
  { keys: 'Ctrl V', does: 'Paste a picture to this step' },
] as const;
