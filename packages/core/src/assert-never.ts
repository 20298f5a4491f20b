/** Ends a `switch` over a closed set; reaching it at run time is a programming error. */
export function assertNever(value: never): never {
  throw new Error(`Unexpected value: ${JSON.stringify(value)}`);
}
