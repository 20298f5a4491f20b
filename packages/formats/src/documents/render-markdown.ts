import { micromark } from 'micromark';

/** Markdown (CommonMark 0.31) as HTML that is safe to show: HTML of its own and addresses that run something are left out. */
export function renderMarkdown(markdown: string): string {
  return micromark(markdown);
}
