export const GUIDE_KEYS = [
  { keys: 'P', does: 'It worked' },
  { keys: 'F', does: 'It did not' },
  { keys: 'B', does: 'I cannot go on' },
  { keys: 'S', does: 'Leave this step out' },
  { keys: '← →', does: 'Step back and on' },
  { keys: 'A', does: 'All steps' },
  { keys: 'Ctrl V', does: 'Paste a picture to this step' },
] as const;
