/** Releases of the suite: what they call things. Screens are written in the words of 4.1. */
export const RELEASES = ['4.1.7', '4.2'] as const;
export type Release = (typeof RELEASES)[number];

const RENAMED: Readonly<Record<Release, Readonly<Record<string, string>>>> = {
  '4.1.7': {},
  '4.2': {
    'Survey number': 'Survey reference',
    'Save quote': 'Save and number',
    'Customer band': 'Tariff band',
    'Deposit due': 'Deposit to pay',
    'Report number': 'Leak reference',
    'Quantity delivered': 'Pieces delivered',
    'Take payment': 'Book payment',
    'Wanted by': 'Needed by',
  },
};

/** What a release calls a thing of release 4.1. */
export const toWord = (release: Release, word: string): string => RENAMED[release][word] ?? word;
