import ChevronDown from 'lucide-react/icons/chevron-down';
import { Button, ListBox, ListBoxItem, Popover, Select, SelectValue } from 'react-aria-components';

interface Choice {
  readonly key: string;
  readonly name: string;
}

interface ChooseProps {
  readonly label: string;
  readonly choices: readonly Choice[];
  readonly chosen: string | null;
  readonly onChoose: (key: string) => void;
  readonly isDisabled?: boolean;
}

/** One of a list, as a control of the title row: its label and its value in one button. */
export function Choose({ label, choices, chosen, onChoose, isDisabled = false }: ChooseProps) {
  return (
    <Select
      aria-label={label}
      value={chosen}
      onChange={(key) => key !== null && onChoose(String(key))}
      isDisabled={isDisabled}
      className="min-w-0"
    >
      <Button className="button max-w-[260px] font-normal">
        <SelectValue className="overflow-hidden text-ellipsis">
          {({ selectedText }) => (
            <>
              <span className="text-soft">{label}</span> <b className="font-semibold">{selectedText || 'choose'}</b>
            </>
          )}
        </SelectValue>
        <ChevronDown size={16} aria-hidden className="flex-none" />
      </Button>
      <Popover className="floats card max-h-[60vh] max-w-[min(420px,90vw)] min-w-(--trigger-width) overflow-auto p-1 shadow-float">
        <ListBox items={choices.map((choice) => ({ ...choice, id: choice.key }))} className="outline-none">
          {(choice) => (
            <ListBoxItem
              id={choice.key}
              textValue={choice.name}
              className="cursor-pointer rounded-control px-3 py-1.5 outline-none data-[focused]:bg-band data-[selected]:font-semibold"
            >
              {choice.name}
            </ListBoxItem>
          )}
        </ListBox>
      </Popover>
    </Select>
  );
}
