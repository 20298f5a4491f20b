import { makeResult } from '../../../../test-support/fixtures.ts';
import { describe, expect, it } from 'vitest';
import { describeBrowser } from './describe-browser.ts';
import { countWords, createGuideState, getWord, reduceGuide } from './guide-state.ts';
import type { GuideEvent, GuideState } from './guide-state.ts';

const STEPS = [
  { do: 'press' as const, target: 'New quote' },
  { do: 'see' as const, target: 'Charge' },
  { do: 'keep' as const, target: 'Quote number', keepAs: 'Quote no.' },
];
const start = () => createGuideState({ results: [], kept: {} }, STEPS);
const play = (state: GuideState, ...events: GuideEvent[]) => events.reduce(reduceGuide, state);
const say = (index: number, outcome: 'passed' | 'failed' | 'skipped' | null, more = {}): GuideEvent => ({
  kind: 'said',
  index,
  steps: STEPS.length,
  word: { outcome, note: '', kept: '', ...more },
});

describe('the guide', () => {
  it('begins at the first step, and goes on when one worked or is left out', () => {
    const state = play(start(), say(0, 'passed'), say(1, 'skipped'));
    expect([state.index, state.screen]).toEqual([2, 'step']);
  });

  it('stays at a step that did not work, to be told', () => {
    expect(play(start(), say(0, 'failed', { note: 'no form' })).index).toBe(0);
  });

  it('shows the end after the last step, and counts', () => {
    const state = play(start(), say(0, 'passed'), say(1, 'failed'), { kind: 'go', index: 2 }, say(2, 'passed', { kept: 'QT-1' }));
    expect(state.screen).toBe('finish');
    expect(countWords(state, STEPS.length)).toEqual({ worked: 2, didNot: 1, blocked: 0, leftOut: 0, open: 0 });
  });

  it('clears an outcome and keeps the words', () => {
    const state = play(start(), say(0, 'passed', { note: 'seen' }), say(0, null, { note: 'seen' }));
    expect(getWord(state, 0)).toEqual({ outcome: null, note: 'seen', kept: '' });
  });

  it('goes on where it was left, on another device too, with what was kept', () => {
    const state = createGuideState({ results: [makeResult(0, 'passed', 'ok')], kept: { 'QUOTE NO.': 'QT-77120' } }, STEPS);
    expect([state.index, getWord(state, 0).note, getWord(state, 2).kept]).toEqual([1, 'ok', 'QT-77120']);
  });

  it('lays what waits in this browser over what the server has', () => {
    const state = play(start(), { kind: 'restore', words: { 1: { outcome: 'passed', note: 'typed offline', kept: '' } } });
    expect(getWord(state, 1).note).toBe('typed offline');
  });

  it('never goes before the first step', () => expect(play(start(), { kind: 'go', index: -1 }).index).toBe(0));
});

describe('the browser, in words', () => {
  it.each([
    ['Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Safari/537.36', 'Chromium 156 on Linux'],
    ['Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:151.0) Gecko/20100101 Firefox/151.0', 'Firefox 151 on Windows'],
    [
      'Mozilla/5.0 (Linux; Android 16; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Mobile Safari/537.36',
      'Chromium 156 on Android',
    ],
    ['', 'Unknown browser'],
  ])('%s is %s', (agent, words) => expect(describeBrowser(agent)).toBe(words));
});
