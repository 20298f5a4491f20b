/** The package has types for its elements, but none for its entry; this is the part that is used here. */
declare module 'bpmn-moddle' {
  export class BpmnModdle {
    /** Rejects with an error whose first line says where the XML ends being XML. */
    fromXML(xml: string): Promise<{ rootElement: unknown; warnings: readonly { message: string }[] }>;
  }
}
