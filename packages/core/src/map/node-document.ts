/** A document that belongs to a node: a title and where it lies. */
export interface NodeDocument {
  readonly title: string;
  readonly address: string;
}
