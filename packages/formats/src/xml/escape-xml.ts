const NAMES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  '\n': '&#10;',
  '\t': '&#9;',
  '\r': '&#13;',
};

/** Text for an attribute or an element (XML 1.0): marks escaped, characters that XML cannot hold left out. */
export function escapeXml(text: string): string {
  return text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '').replace(/[&<>"\n\t\r]/g, (mark) => NAMES[mark] ?? mark);
}
