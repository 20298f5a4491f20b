interface Document {
  readonly title: string;
  readonly address: string;
}

interface DocumentFieldsProps {
  readonly documents: readonly Document[];
  readonly onChange: (documents: Document[]) => void;
  readonly isDisabled?: boolean;
}

/** Documents that belong to something: a title and where each lies. */
export function DocumentFields({ documents, onChange, isDisabled = false }: DocumentFieldsProps) {
  const replace = (index: number, change: Partial<Document>) =>
    onChange(documents.map((own, at) => (at === index ? { ...own, ...change } : own)));
  return (
    <fieldset disabled={isDisabled} className="grid gap-2">
      <legend className="sr-only">Documents</legend>
      {documents.length === 0 && (
        <p className="text-[13px] text-soft">None. A test strategy, a contact list, minutes of the kick-off belong here.</p>
      )}
      {documents.map((document, index) => (
        <div key={index} className="grid gap-2 sm:grid-cols-[1fr_1.4fr_auto]">
          <input
            className="field"
            aria-label={`Title of document ${index + 1}`}
            placeholder="Title"
            value={document.title}
            onChange={(event) => replace(index, { title: event.target.value })}
          />
          <input
            className="field"
            aria-label={`Address of document ${index + 1}`}
            placeholder="https://"
            value={document.address}
            onChange={(event) => replace(index, { address: event.target.value })}
          />
          <button
            type="button"
            className="button button-quiet"
            aria-label={`Remove document ${index + 1}`}
            onClick={() => onChange(documents.filter((_, at) => at !== index))}
          >
            Remove
          </button>
        </div>
      ))}
      <span>
        <button type="button" className="button button-small" onClick={() => onChange([...documents, { title: '', address: '' }])}>
          Add a document
        </button>
      </span>
    </fieldset>
  );
}
