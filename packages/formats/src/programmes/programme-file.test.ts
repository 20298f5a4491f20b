import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { readProgrammeFile, writeProgrammeFile } from './programme-file.ts';

const picture = { id: 'e-1', name: 'a.png', content: '\\x89504e4700ff' };
const file = {
  schema: 15,
  programme: { id: 'p', key: 'north', name: 'Norð & Söhne' },
  people: [{ id: 'u', name: 'Una', email: 'una@north.example' }],
  tables: {
    nodes: [{ id: 'n', name: '“Supply”', levels: ['a', null], is_critical: false }],
    evidence: [picture, { id: 'e-2', name: 'empty', content: '\\x' }],
    history: [],
  },
};
const messageOf = (bytes: Uint8Array) => {
  const read = readProgrammeFile(bytes);
  return read.ok ? 'read' : read.message;
};

describe('the open file of a programme', () => {
  it('is read as it was written', () => expect(readProgrammeFile(writeProgrammeFile(file))).toEqual({ ok: true, file }));

  it('is a ZIP that anybody can open: JSON by table, and pictures as they were', () => {
    const files = unzipSync(writeProgrammeFile(file));
    expect(Object.keys(files).sort()).toEqual([
      ...['evidence/e-1', 'evidence/e-2', 'programme.json', 'tables/evidence.json', 'tables/history.json', 'tables/nodes.json'],
    ]);
    expect([...files['evidence/e-1']!]).toEqual([0x89, 0x50, 0x4e, 0x47, 0, 0xff]);
    expect(JSON.parse(strFromU8(files['tables/evidence.json']!))).toEqual([
      { id: 'e-1', name: 'a.png' },
      { id: 'e-2', name: 'empty' },
    ]);
  });

  it('says what is wrong with it', () => {
    const written = unzipSync(writeProgrammeFile(file));
    const { 'evidence/e-1': _, ...without } = written;
    expect(messageOf(zipSync(without))).toBe('The file lacks the evidence a.png.');
    expect(messageOf(zipSync({ 'x.txt': strToU8('x') }))).toMatch(/^The file is no programme of Kindred Baton/);
    expect(messageOf(zipSync({ ...written, 'programme.json': strToU8('{"format":') }))).toMatch(/^The file is damaged/);
    expect(messageOf(strToU8('PK'))).toMatch(/^The file is damaged/);
  });
});
