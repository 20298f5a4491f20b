/** Draws a screen of the newer generation in the browser: each field an element with a shadow of its own. */
const make = (tag, attributes = {}, ...children) => {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes))
    if (value !== undefined && value !== false) element.setAttribute(name, value === true ? '' : value);
  element.append(...children);
  return element;
};

let given = 0;

class MillField extends HTMLElement {
  draw(field, onLeft) {
    const shadow = this.attachShadow({ mode: 'open' });
    const id = `field-${(given += 1)}`;
    if (field.kind === 'boxes') {
      const boxes = field.options.map((option) => {
        const box = make('input', { type: 'radio', name: id, value: option, checked: option === field.value });
        return make('label', {}, box, ` ${option} `);
      });
      shadow.append(make('fieldset', {}, make('legend', {}, field.word), ...boxes));
      return;
    }
    const control =
      field.kind === 'list'
        ? make(
            'select',
            { id },
            ...field.options.map((option) => make('option', { value: option, selected: option === field.value }, option)),
          )
        : make('input', {
            id,
            type: field.kind === 'day' ? 'date' : 'text',
            value: field.value,
            readonly: field.isFixed,
            autocomplete: 'off',
          });
    if (field.isLookedUp) control.addEventListener('change', onLeft);
    shadow.append(
      make(
        'style',
        {},
        ':host { display: block; margin: 4px 0 } label { display: inline-block; width: 170px; color: #44546a } input, select { font: inherit; padding: 2px 4px; min-width: 180px }',
      ),
      make('label', { for: id }, field.word),
      control,
    );
  }
  get value() {
    const checked = this.shadowRoot.querySelector('input[type=radio]:checked');
    return checked ? checked.value : (this.shadowRoot.querySelector('input:not([type=radio]), select')?.value ?? '');
  }
}
customElements.define('mill-field', MillField);

const STYLE = `
  :host { display: block }
  dl { display: grid; grid-template-columns: 170px 1fr; gap: 4px 8px; margin: 8px 0 }
  dt { color: #44546a } dd { margin: 0 }
  table { border-collapse: collapse; background: #fff } th, td { border: 1px solid #c6cfdb; padding: 3px 8px; text-align: left }
  .said { border: 1px solid #4d7c4d; background: #e6f2e6; padding: 6px 10px; margin-bottom: 10px; max-width: 700px }
  .refused { border-color: #a4442e; background: #fbe9e4 }
  button { font: inherit; padding: 4px 10px; margin: 6px 6px 6px 0 } h2 { font-size: 15px; margin: 16px 0 6px }
  dialog { border: 2px solid #33507a }`;

class MillScreen extends HTMLElement {
  connectedCallback() {
    this.attachShadow({ mode: 'open' });
    this.desk = { values: {}, record: '', mode: '' };
    void this.send('');
  }

  async send(event) {
    const asked = (this.asked = (this.asked ?? 0) + 1);
    for (const [label, field] of this.fields ?? []) this.desk.values[label] = field.value;
    const answer = await fetch(location.pathname, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ...this.desk, event }),
    });
    if (answer.status === 401) return location.reload();
    // An answer that was overtaken by a later question is not drawn.
    if (asked !== this.asked) return undefined;
    const { view, desk } = await answer.json();
    this.desk = desk;
    // What was said stays while a value is still coming.
    if (event === 'again' && !view.message) Object.assign(view, this.said);
    this.said = { message: view.message, isRefused: view.isRefused };
    this.draw(view);
    if (view.isComing) setTimeout(() => asked === this.asked && void this.send('again'), 400);
    return undefined;
  }

  draw(view) {
    this.fields = new Map();
    const toField = (field) => {
      const element = document.createElement('mill-field');
      element.draw(field, () => void this.send(`change:${field.label}`));
      this.fields.set(field.label, element);
      return element;
    };
    const toButton = ({ label, word }) => {
      const button = make('button', { type: 'button' }, word);
      button.addEventListener('click', () => void this.send(`press:${label}`));
      return button;
    };
    const parts = [make('style', {}, STYLE)];
    if (view.message) parts.push(make('div', { role: 'status', class: view.isRefused ? 'said refused' : 'said' }, view.message));
    parts.push(...view.fields.map(toField));
    if (view.shown.length > 0)
      parts.push(make('dl', {}, ...view.shown.flatMap(([label, value]) => [make('dt', {}, label), make('dd', {}, value)])));
    parts.push(...(view.sentences ?? []).map((sentence) => make('p', {}, sentence)));
    parts.push(make('div', { role: 'group', 'aria-label': 'Acts' }, ...view.buttons.map(toButton)));
    parts.push(...view.tables.flatMap((table) => this.drawTable(table)));
    if (view.file) parts.push(make('p', {}, make('a', { href: view.file.address, download: true }, view.file.name)));
    this.shadowRoot.replaceChildren(...parts);
    if (view.dialog) {
      const dialog = make(
        'dialog',
        { 'aria-label': view.dialog.title },
        make('h2', {}, view.dialog.title),
        ...view.dialog.fields.map(toField),
        ...view.dialog.buttons.map(toButton),
      );
      this.shadowRoot.append(dialog);
      dialog.showModal();
    }
  }

  drawTable({ title, headings, rows, editable, page, isLast }) {
    const at = editable === undefined ? -1 : headings.indexOf(editable);
    const toCell = (row) => (cell, k) => {
      if (k !== at) return make('td', {}, cell);
      const input = make('input', { value: this.desk.values[`${editable} ${row[0]}`] ?? cell, size: 8 });
      this.fields.set(`${editable} ${row[0]}`, input);
      return make('td', {}, input);
    };
    const head = make('tr', {}, ...headings.map((heading) => make('th', {}, heading)));
    const table = make('table', {}, head, ...rows.map((row) => make('tr', {}, ...row.map(toCell(row)))));
    const turn = (to, word) => {
      const button = make('button', { type: 'button' }, word);
      button.addEventListener('click', () => {
        this.desk.values[`page of ${title}`] = String(to);
        void this.send('again');
      });
      return button;
    };
    const turns = [...(page > 0 ? [turn(page - 1, 'Previous page')] : []), ...(isLast ? [] : [turn(page + 1, 'Next page')])];
    return [make('h2', {}, title), rows.length > 0 ? table : make('p', {}, 'Nothing yet.'), ...turns];
  }
}
customElements.define('mill-screen', MillScreen);
