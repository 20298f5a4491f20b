import { Button, ListBox, ListBoxItem, Popover, Select, SelectValue } from 'react-aria-components';
import type { ChooseProps } from './choose-face.tsx';
import { CHOOSE_LOOK, ChooseFace } from './choose-face.tsx';

/** The control once it has been pressed: its list is open. */
export function OpenChoose({ label, choices, chosen, onChoose, isDisabled = false }: ChooseProps) {
  return (
    <Select
      aria-label={label}
      value={chosen}
      onChange={(key) => key !== null && onChoose(String(key))}
      isDisabled={isDisabled}
      defaultOpen
      className="min-w-0"
    >
      <Button className={CHOOSE_LOOK}>
        <SelectValue className="contents">
          {({ selectedText }) => <ChooseFace label={label} text={selectedText ?? undefined} />}
        </SelectValue>
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
