/**
 * What a script that is taken away carries with it: finding by words in the page, through shadow roots and frames of its own origin, and the acts of
 * steps. Plain JavaScript, for a reader who has nothing else of ours. Kept as text: it runs elsewhere.
 */
export const SCRIPT_FUNCTIONS = String.raw`
// ---- From here on the same in every script.

/** Runs in the page: the one thing that can be seen and is meant by these words. */
function look(kind, name, within, beside) {
  const fold = (text) => (text ?? '').replace(/\s+/g, ' ').trim().replace(/[\s:*]+$/, '').toLowerCase();
  const all = [];
  const walk = (root) => {
    for (const element of root.querySelectorAll('*')) {
      all.push(element);
      if (element.shadowRoot) walk(element.shadowRoot);
      if (element.tagName === 'IFRAME' && element.contentDocument) walk(element.contentDocument);
    }
  };
  walk(document);
  const isSeen = (element) => element.getClientRects().length > 0 && getComputedStyle(element).visibility !== 'hidden';
  const textOf = (element) => (element.tagName === 'INPUT' && /^(submit|button|reset)$/.test(element.type) ? element.value : element.innerText);
  const cellBefore = (element) => element.closest('td, dd')?.previousElementSibling?.innerText;
  const labelsOf = (element) => [
    element.getAttribute('aria-label'),
    ...(element.getAttribute('aria-labelledby') ?? '').split(/\s+/).map((id) => element.getRootNode().getElementById?.(id)?.innerText),
    ...[...(element.labels ?? [])].map((label) => label.innerText),
    element.getAttribute('title'),
    element.getAttribute('placeholder'),
    cellBefore(element),
  ];
  const is = (words) => words !== undefined && words !== null && fold(words) === fold(name);
  const holds = (element) => {
    for (let at = element; at; at = at.parentNode ?? at.host ?? at.defaultView?.frameElement) {
      const head = at.querySelector?.(':scope > legend, :scope > caption, :scope > h1, :scope > h2, :scope > h3');
      if ([at.getAttribute?.('aria-label'), at.getAttribute?.('title'), head?.innerText].some((words) => words && fold(words) === fold(within))) return true;
      const before = at.previousElementSibling;
      if (before && /^H[1-6]$/.test(before.tagName) && fold(before.innerText) === fold(within)) return true;
    }
    return false;
  };
  const isBeside = (element) => [...(element.closest('tr, li')?.querySelectorAll('*') ?? [])].some((other) => fold(textOf(other)) === fold(beside));
  const kinds = {
    field: 'input:not([type=submit]):not([type=button]):not([type=hidden]), textarea, select, [contenteditable], [role=textbox], [role=combobox]',
    press: 'button, a, input[type=submit], input[type=button], input[type=checkbox], input[type=radio], [role=button], [role=link], [role=tab], [role=menuitem], summary, label',
    shown: '*',
  };
  const fits = all.filter((element) => element.matches(kinds[kind]) && isSeen(element)).filter((element) => {
    if (kind === 'shown') return element.children.length === 0 && (is(textOf(element)) || labelsOf(element).some(is)) ;
    return labelsOf(element).slice(0, kind === 'field' ? 6 : 4).some(is) || (kind === 'press' && is(textOf(element)));
  });
  const found = fits.filter((element) => (within === undefined || holds(element)) && (beside === undefined || isBeside(element)));
  // What holds another of them is the same thing.
  const meant = found.filter((element) => !found.some((other) => other !== element && element.contains(other)));
  return meant.length === 1 || (kind === 'shown' && meant.length > 0) ? meant[0] : null;
}

/** Runs in the page: what stands beside a name, or what a field of the name holds. */
function read(element, name) {
  const fold = (text) => (text ?? '').replace(/\s+/g, ' ').trim().replace(/[\s:*]+$/, '').toLowerCase();
  if (element.tagName === 'SELECT') return element.selectedOptions[0]?.text ?? '';
  if ('value' in element && element.tagName !== 'LI') return String(element.value);
  if (fold(element.innerText) !== fold(name)) return element.innerText.trim();
  const next = element.nextElementSibling ?? element.parentElement?.nextElementSibling;
  const field = next?.matches('input, select, textarea') ? next : next?.querySelector('input, select, textarea');
  return (field ? field.value : (next?.innerText ?? '')).trim();
}

/** Runs in the page: all that can be read on it. */
function readAll() {
  const words = [];
  const walk = (root) => {
    words.push(root.body ? root.body.innerText : [...root.children].map((child) => child.innerText).join('\n'));
    for (const element of root.querySelectorAll('*')) {
      if (element.shadowRoot) walk(element.shadowRoot);
      if (element.tagName === 'IFRAME' && element.contentDocument) walk(element.contentDocument);
      if (element.tagName === 'INPUT' && element.type !== 'password') words.push(element.value);
    }
  };
  walk(document);
  return words.join('\n');
}

function fold(text) {
  return text.replace(/\s+/g, ' ').trim().toLowerCase();
}
function toNumber(text) {
  return Number(text.replace(/[^\d.-]/g, ''));
}
function pause(ms) {
  return new Promise((resolve) => setTimeout(resolve, ms));
}

async function until(what, seconds, run) {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    // A page that is being replaced has nothing to look at.
    const found = await run().catch(() => undefined);
    if (found) return found;
    if (Date.now() > end) throw new Error(what);
    await pause(100);
  }
}

async function find(kind, name, { within, beside } = {}) {
  return until('There is no one ' + kind + ' “' + name + '” on this screen.', 10, async () => {
    const handle = await page.evaluateHandle(look, kind, name, within, beside);
    return handle.asElement();
  });
}

async function settle() {
  await page.waitForNetworkIdle({ idleTime: 60, timeout: 10000 }).catch(() => undefined);
}

async function signIn() {
  const secret = await page.$('input[type=password]');
  if (!secret) return;
  if (!process.env.SIGN_IN_USER) throw new Error('The application asks for a sign-in: set SIGN_IN_USER and SIGN_IN_PASSWORD.');
  const user = await page.$('input[type=text], input[type=email], input:not([type])');
  await user.type(process.env.SIGN_IN_USER);
  await secret.type(process.env.SIGN_IN_PASSWORD ?? '');
  await page.keyboard.press('Enter');
  await page.waitForNavigation({ waitUntil: 'load', timeout: 10000 }).catch(() => undefined);
  await settle();
}

async function press(name, where) {
  await (await find('press', name, where)).click();
  await settle();
}
async function go(name) {
  await press(name);
}

async function fill(name, value, where) {
  const field = await find('field', name, where);
  await field.evaluate((element, words) => {
    element.focus();
    if (element.tagName === 'SELECT') element.value = [...element.options].find((option) => option.text.trim() === words)?.value ?? element.value;
    else if (element.isContentEditable) element.textContent = words;
    else Object.getOwnPropertyDescriptor(Object.getPrototypeOf(element), 'value').set.call(element, words);
    element.dispatchEvent(new Event('input', { bubbles: true, composed: true }));
    element.dispatchEvent(new Event('change', { bubbles: true }));
  }, value);
  await settle();
}

async function pick(name, value, where) {
  const list = await page.evaluateHandle(look, 'field', name, where?.within, where?.beside);
  if (list.asElement() && (await list.evaluate((element) => element.tagName === 'SELECT'))) return fill(name, value, where);
  return press(value, where);
}

async function keep(name, where) {
  return until('“' + name + '” shows nothing.', 10, async () => (await find('shown', name, where)).evaluate(read, name));
}

async function see(name, { value, check, seconds = 10, within, beside } = {}) {
  const says = 'Expected “' + name + '” ' + (check ?? 'showing') + ' “' + (value ?? '') + '”.';
  await until(says, seconds, async () => {
    const handle = (await page.evaluateHandle(look, 'shown', name, within, beside)).asElement();
    if (check === 'not there') return !handle;
    if (!handle) return value === undefined && check === undefined && fold(await page.evaluate(readAll)).includes(fold(name));
    if (value === undefined) return true;
    const shown = await handle.evaluate(read, name);
    if (check === 'not showing') return fold(shown) !== fold(value);
    if (check === 'containing') return fold(shown).includes(fold(value));
    if (check === 'at least') return toNumber(shown) >= toNumber(value);
    if (check === 'at most') return toNumber(shown) <= toNumber(value);
    if (check !== undefined) throw new Error('A script does not check “' + check + '”; look at it yourself.');
    return fold(shown) === fold(value) || fold(shown).split(' ').includes(fold(value));
  });
}

async function seeWords(words) {
  await until('Expected “' + words + '” on the screen.', 10, async () => fold(await page.evaluate(readAll)).includes(fold(words)));
}

function day(offset, isWorking) {
  const date = new Date();
  for (let left = Math.abs(offset); left > 0; ) {
    date.setDate(date.getDate() + Math.sign(offset));
    if (!isWorking || (date.getDay() !== 0 && date.getDay() !== 6)) left -= 1;
  }
  return date.toISOString().slice(0, 10);
}

function fresh(pattern) {
  const from = (signs) => signs[Math.floor(Math.random() * signs.length)];
  return pattern.replace(/[Aa9?]/g, (sign) => (sign === '9' ? from('0123456789') : sign === 'A' ? from('ABCDEFGHJKLMNPQRSTUVWXYZ') : from('abcdefghjkmnpqrstuvwxyz')));
}
`;
