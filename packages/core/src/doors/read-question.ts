import type { TemplateSource } from '../values/template.ts';
import { createTemplateFiller, parseTemplate } from '../values/template.ts';
import type { DoorKind } from './door.ts';

const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;
type Method = (typeof METHODS)[number];

/** What is asked, with its values: they change no more than the place at which they stand. */
export type Question =
  | { readonly kind: 'interface'; readonly method: Method; readonly path: string; readonly body: string | undefined }
  | { readonly kind: 'database'; readonly statement: string; readonly parameters: readonly string[] };

export type QuestionReading = { readonly ok: true; readonly question: Question } | { readonly ok: false; readonly message: string };

const REQUEST = new RegExp(`^(${METHODS.join('|')})\\s+(\\S.*)$`, 'i');

/** With its path: “delete from bills” is a statement. */
const WHOLE_REQUEST = new RegExp(`^(?:${METHODS.join('|')})\\s+/`, 'i');

/** Which kind of door a question is meant for, by its words. */
export const guessDoorKind = (question: string): DoorKind => (WHOLE_REQUEST.test(question) ? 'interface' : 'database');

/** Whether asking it again changes nothing (RFC 9110, section 9.2.1; a database is only read). */
export const isSafe = (question: Question): boolean =>
  question.kind === 'database' || question.method === 'GET' || question.method === 'HEAD';

/**
 * Reads the question of an *ask*: `GET /quotes/{Quote no.}` for an interface, with a body behind *with*; one statement for a database. A value in a path is
 * escaped (RFC 3986), one in a body too (RFC 8259), one in a statement is a parameter, whether quotes stand around it or not.
 */
export function readQuestion(
  kind: DoorKind,
  asked: { target: string; value?: string | undefined },
  source: TemplateSource,
): QuestionReading {
  if (kind === 'interface') return readRequest(asked, source);
  if (asked.value !== undefined)
    return { ok: false, message: 'A database is asked by one statement; what stands behind “with” has no place in it.' };
  if (WHOLE_REQUEST.test(asked.target))
    return { ok: false, message: 'This door is a database: ask it by a statement, such as select count(*) from quotes.' };
  return { ok: true, question: readStatement(asked.target, source) };
}

function readRequest({ target, value }: { target: string; value?: string | undefined }, source: TemplateSource): QuestionReading {
  const [, method = '', path = ''] = REQUEST.exec(target) ?? [];
  if (method === '')
    return { ok: false, message: `This door is an interface: say a method and a path, such as GET /quotes, not “${target.slice(0, 60)}”.` };
  if (!path.startsWith('/')) return { ok: false, message: `The path begins with a slash: ${method.toUpperCase()} /${path.slice(0, 60)}` };
  return {
    ok: true,
    question: {
      ...{ kind: 'interface', method: method.toUpperCase() as Method },
      path: createTemplateFiller(source, encodeURIComponent)(path),
      body: value === undefined ? undefined : createTemplateFiller(source, (text) => JSON.stringify(text).slice(1, -1))(value),
    },
  };
}

function readStatement(template: string, source: TemplateSource): Question {
  const parameters: string[] = [];
  let isInQuotes = false;
  const fill = createTemplateFiller(source, (text) => text);
  const statement = parseTemplate(template).map((part) => {
    if (part.kind === 'text') {
      if (part.text.split("'").length % 2 === 0) isInQuotes = !isInQuotes;
      return part.text;
    }
    parameters.push(fill.part(part));
    return isInQuotes ? `' || $${parameters.length}::text || '` : `$${parameters.length}`;
  });
  return { kind: 'database', statement: statement.join('').trim().replace(/;$/, ''), parameters };
}
