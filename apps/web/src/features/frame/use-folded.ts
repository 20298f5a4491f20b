import { useEffect, useState } from 'react';

const KEY = 'kindred-baton-strip';

/** Whether the strip is folded to one row; kept in this browser. */
export function useFolded(): [boolean, (isFolded: boolean) => void] {
  const [isFolded, setIsFolded] = useState(false);
  useEffect(() => setIsFolded(localStorage.getItem(KEY) === 'folded'), []);
  const change = (next: boolean) => {
    localStorage.setItem(KEY, next ? 'folded' : 'open');
    setIsFolded(next);
  };
  return [isFolded, change];
}
