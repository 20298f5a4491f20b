/** What Kindred Baton notes beside the standard’s own attributes, so that what it wrote comes back as it was. */
export const NAMESPACE = 'https://kindred-baton.example/bpmn';
export const PREFIX = 'baton';
export const OWN_FIELDS = ['application', 'owner', 'critical', 'retired'] as const;

/** The part of a bpmn-moddle element that is used here; the package’s own types leave attributes open. */
export interface BpmnElement {
  readonly $type: string;
  readonly $attrs?: Readonly<Record<string, string>>;
  readonly $instanceOf: (type: string) => boolean;
  readonly id?: string;
  readonly name?: string;
  readonly documentation?: readonly { readonly text?: string }[];
  readonly flowElements?: readonly BpmnElement[];
  readonly laneSets?: readonly { readonly lanes?: readonly BpmnLane[] }[];
  readonly participants?: readonly (BpmnElement & { readonly processRef?: BpmnElement })[];
  readonly calledElement?: string;
  readonly sourceRef?: BpmnElement;
  readonly targetRef?: BpmnElement;
}

export interface BpmnLane extends BpmnElement {
  readonly flowNodeRef?: readonly BpmnElement[];
  readonly childLaneSet?: { readonly lanes?: readonly BpmnLane[] };
}
