import type { ComponentType, KeyboardEvent, ReactNode } from 'react';
import { lazy, Suspense, useState } from 'react';

interface SleepingButtonProps {
  readonly label?: string | undefined;
  readonly className: string;
  readonly isDisabled: boolean;
  readonly popup: 'menu' | 'listbox';
  /** Fetches what is to come in its place. */
  readonly onNear: () => void;
  readonly onWake: () => void;
  readonly children: ReactNode;
}

/** Stands for a control whose code is fetched when it is come near; the press that wakes it opens it, so that none is lost. */
export function SleepingButton({ label, className, isDisabled, popup, onNear, onWake, children }: SleepingButtonProps) {
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
    event.preventDefault();
    onWake();
  };
  return (
    <button
      type="button"
      aria-label={label}
      aria-haspopup={popup}
      aria-expanded={false}
      className={className}
      disabled={isDisabled}
      onPointerEnter={onNear}
      onFocus={onNear}
      onClick={onWake}
      onKeyDown={onKeyDown}
    >
      {children}
    </button>
  );
}

/** A control that sleeps until it is pressed: `draw` shows the sleeping one. */
export function wakeOnPress<Props extends object>(
  fetchAwake: () => Promise<ComponentType<Props>>,
  draw: (props: Props, wake: Pick<SleepingButtonProps, 'onNear' | 'onWake'>) => ReactNode,
): ComponentType<Props> {
  const Awake = lazy<ComponentType<Props>>(() => fetchAwake().then((component) => ({ default: component })));
  // What cannot be fetched now is tried again by the press.
  const onNear = () => void fetchAwake().catch(() => undefined);
  return function Waking(props: Props) {
    const [isAwake, setIsAwake] = useState(false);
    const asleep = draw(props, { onNear, onWake: () => setIsAwake(true) });
    return isAwake ? (
      <Suspense fallback={asleep}>
        <Awake {...props} />
      </Suspense>
    ) : (
      asleep
    );
  };
}
