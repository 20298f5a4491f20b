import { BpmnModdle } from 'bpmn-moddle';
import { decodeText } from '../tables/read-csv.ts';
import { findXmlDanger } from '../xml/find-xml-danger.ts';
import type { BpmnElement } from './bpmn.ts';

export type BpmnParsing =
  | { readonly ok: true; readonly roots: readonly BpmnElement[]; readonly warnings: readonly string[] }
  | { readonly ok: false; readonly message: string };

/** Bytes as BPMN 2.0 elements; what is not valid against the schema is told and passed over. Never throws. */
export async function parseBpmn(bytes: Uint8Array): Promise<BpmnParsing> {
  const text = decodeText(bytes);
  const danger = text === null ? 'The file is not text, so it is no BPMN.' : findXmlDanger(text);
  if (text === null || danger !== null) return { ok: false, message: danger ?? '' };
  try {
    const { rootElement, warnings } = await new BpmnModdle().fromXML(text);
    const roots = (rootElement as { rootElements?: readonly BpmnElement[] }).rootElements ?? [];
    return { ok: true, roots, warnings: [...new Set(warnings.map(({ message }) => message.split('\n')[0] ?? ''))] };
  } catch (error) {
    const reason = error instanceof Error ? error.message.split('\n')[0] : '';
    return { ok: false, message: `The file is not BPMN 2.0 XML, or its end is missing (${reason?.slice(0, 160)}).` };
  }
}
