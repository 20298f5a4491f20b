const MAX_XML_CHARACTERS = 30 * 1024 * 1024;
const MAX_DEPTH = 256;

/**
 * A sentence when an XML text is not to be read at all: too long, or with a document type of its own, whose entities could
 * fetch files or grow without end (OWASP, XML External Entity Prevention). Null when it can be read.
 */
export function findXmlDanger(text: string): string | null {
  if (text.trim() === '') return 'The file is empty.';
  if (text.length > MAX_XML_CHARACTERS)
    return `The file has more than ${MAX_XML_CHARACTERS / 1_048_576} MB, which is the most that is read.`;
  if (/<!DOCTYPE|<!ENTITY/i.test(text))
    return 'The file declares a document type or entities of its own (<!DOCTYPE …>); such files are not read. Save it without.';
  if (!text.trimStart().startsWith('<')) return 'The file is not XML.';
  return isTooDeep(text) ? `The file has elements within elements more than ${MAX_DEPTH} deep, which is the most that is read.` : null;
}

/** Roughly, by its tags: what stands in comments and in quoted marks is counted as well, and no file of that kind comes near the bound. */
function isTooDeep(text: string): boolean {
  let depth = 0;
  for (const [tag] of text.matchAll(/<[/a-zA-Z_][^<>]{0,100000}>/g)) {
    if (tag.startsWith('</')) depth -= 1;
    else if (!tag.endsWith('/>')) depth += 1;
    if (depth > MAX_DEPTH) return true;
  }
  return false;
}
