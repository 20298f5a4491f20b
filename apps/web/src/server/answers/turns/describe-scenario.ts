/** A scenario with the data row that a run of it takes. */
export const describeScenario = ({ name, rowName }: { readonly name: string; readonly rowName: string | null }): string =>
  `${name}${rowName === null ? '' : `, ${rowName}`}`;
