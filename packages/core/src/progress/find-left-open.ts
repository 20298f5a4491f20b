interface LeavingOut<Requirement, Node> {
  readonly requirements: readonly Requirement[];
  /** By the code of a test: how many of its turns would be left out, and how many would stay. */
  readonly turnsOf: ReadonlyMap<string, { readonly spared: number; readonly kept: number }>;
  readonly nodes: readonly Node[];
  /** Codes of nodes at which a turn would be left out, and of all that they lie in. */
  readonly touched: ReadonlySet<string>;
}

interface NotYetProved {
  readonly state: string;
  readonly tests: readonly { readonly code: string }[];
}

interface NotYetSigned {
  readonly code: string;
  readonly isSignedOff: boolean;
}

/**
 * What leaving turns out leaves open: requirements that are not verified and of which a test would have no turn left, so that they cannot be; critical
 * nodes that are not signed off and would lose turns. Cost O(requirements × tests of each + nodes).
 */
export function findLeftOpen<Requirement extends NotYetProved, Node extends NotYetSigned>({
  requirements,
  turnsOf,
  nodes,
  touched,
}: LeavingOut<Requirement, Node>): { readonly requirements: Requirement[]; readonly nodes: Node[] } {
  const losesAll = ({ code }: { readonly code: string }) => {
    const own = turnsOf.get(code);
    return own !== undefined && own.spared > 0 && own.kept === 0;
  };
  return {
    requirements: requirements.filter(({ state, tests }) => state !== 'verified' && tests.some(losesAll)),
    nodes: nodes.filter(({ code, isSignedOff }) => !isSignedOff && touched.has(code)),
  };
}
