const FORMAT = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

/** As it stands on a document: 25 November 2026. */
export const toDay = (date: Date) => FORMAT.format(date);
