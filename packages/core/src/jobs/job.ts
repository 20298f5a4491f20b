/** *Stopped* is a person's choice; *failed* says why in its message. */
export const JOB_STATES = ['waiting', 'under way', 'done', 'failed', 'stopped'] as const;
