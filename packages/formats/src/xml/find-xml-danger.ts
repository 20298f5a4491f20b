const MAX_XML_CHARACTERS = 30 * 1024 * 1024;

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
  return text.trimStart().startsWith('<') ? null : 'The file is not XML.';
}
