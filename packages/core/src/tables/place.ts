/** Where in a file something stands: rows and columns as the person sees them. */
export interface Place {
  readonly sheet: string;
  readonly row?: number | undefined;
  /** The column's heading, or its letter where it has none. */
  readonly column?: string | undefined;
}

export interface ImportProblem extends Place {
  readonly message: string;
}
