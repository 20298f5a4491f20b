import type { TidyRule } from './proposal.ts';

/** Only what names the pointer or the focus: “Move the stock to warehouse 2” is work. */
const POINTER =
  /^(?:(?:move|moves|moved) (?:the )?(?:mouse|pointer|cursor)|(?:hover|hovers|hovered)|(?:scroll|scrolls|scrolled) (?:up|down|left|right|to|into|page|the page|over|by)|scroll$|mouse ?(?:move|enter|leave|over|out)|(?:set focus|focus|focuses|focused)|tab (?:to|into|out)|leave (?:the )?(?:field|focus)|blur)\b.*$/i;

/** Recordings are full of pointer movements and changes of the focus; nobody needs them to do the step. */
export const dropPointerMoves: TidyRule = {
  rule: 'pointer',
  propose: (steps) =>
    steps.flatMap((step, at) =>
      step.do === 'hand' && step.expect === undefined && step.keepAs === undefined && POINTER.test(step.target)
        ? [
            {
              key: `${at} ${step.target}`,
              reason: 'Moving the pointer or the focus changes nothing that is tested.',
              replacements: [{ at, before: [step], after: [] }],
            },
          ]
        : [],
    ),
};
