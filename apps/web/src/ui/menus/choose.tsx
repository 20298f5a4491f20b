import type { ChooseProps } from './choose-face.tsx';
import { CHOOSE_LOOK, ChooseFace } from './choose-face.tsx';
import { SleepingButton, wakeOnPress } from './sleeping-button.tsx';

/** One of a list, as a control of the title row: its label and its value in one button. */
export const Choose = wakeOnPress<ChooseProps>(
  () => import('./open-choose.tsx').then(({ OpenChoose }) => OpenChoose),
  ({ label, choices, chosen, isDisabled = false }, wake) => {
    const text = choices.find(({ key }) => key === chosen)?.name;
    return (
      <span className="min-w-0">
        <SleepingButton label={`${label} ${text || 'choose'}`} className={CHOOSE_LOOK} isDisabled={isDisabled} popup="listbox" {...wake}>
          <ChooseFace label={label} text={text} />
        </SleepingButton>
      </span>
    );
  },
);
