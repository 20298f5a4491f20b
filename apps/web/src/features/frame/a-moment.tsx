import { useIsFetching } from '@tanstack/react-query';
import LoaderCircle from 'lucide-react/icons/loader-circle';
import { useEffect, useState } from 'react';

/** After this a reader wonders whether anything happens. */
const WONDERS_MS = 1_200;

/** Says that an answer is on its way where somebody waits long for one that she has not seen yet; what is asked again behind what is shown is not told. */
export function AMoment() {
  const isAwaited = useIsFetching({ predicate: ({ state }) => state.status === 'pending' }) > 0;
  const [isLong, setIsLong] = useState(false);
  useEffect(() => {
    if (!isAwaited) return;
    const timer = setTimeout(() => setIsLong(true), WONDERS_MS);
    return () => {
      clearTimeout(timer);
      setIsLong(false);
    };
  }, [isAwaited]);
  return (
    <div role="status" className="no-print pointer-events-none fixed bottom-4 left-4 z-40">
      {isLong && (
        <p className="floats card flex items-center gap-2 px-4 py-2 text-[13px] shadow-float">
          <LoaderCircle size={15} aria-hidden className="motion-safe:animate-spin" /> This takes a moment …
        </p>
      )}
    </div>
  );
}
