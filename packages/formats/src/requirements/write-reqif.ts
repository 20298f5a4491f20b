import type { StoredRequirement } from '@kindred-baton/core/imports/compare-requirements';
import type { Markup } from '../xml/markup.ts';
import { markup, toLines } from '../xml/markup.ts';
import { REQIF_ATTRIBUTES, REQIF_NAMESPACE } from './reqif.ts';

export interface ReqifHead {
  readonly title: string;
  /** The moment of writing; ISO 8601. */
  readonly at: string;
}

/** Writes requirements as ReqIF 1.2; `readReqif` reads them back. */
export function writeReqif(requirements: readonly StoredRequirement[], { title, at }: ReqifHead): string {
  const definitions = REQIF_ATTRIBUTES.map(
    ({ name }, index) =>
      markup`        <ATTRIBUTE-DEFINITION-STRING IDENTIFIER="attribute-${index}" LAST-CHANGE="${at}" LONG-NAME="${name}"><TYPE><DATATYPE-DEFINITION-STRING-REF>text</DATATYPE-DEFINITION-STRING-REF></TYPE></ATTRIBUTE-DEFINITION-STRING>`,
  );
  const objects = requirements.map((requirement, index) => writeObject(requirement, index, at));
  const children = requirements.map(
    (_, index) =>
      markup`        <SPEC-HIERARCHY IDENTIFIER="place-${index}" LAST-CHANGE="${at}"><OBJECT><SPEC-OBJECT-REF>requirement-${index}</SPEC-OBJECT-REF></OBJECT></SPEC-HIERARCHY>`,
  );
  return markup`<?xml version="1.0" encoding="UTF-8"?>
<REQ-IF xmlns="${REQIF_NAMESPACE}">
  <THE-HEADER><REQ-IF-HEADER IDENTIFIER="header"><CREATION-TIME>${at}</CREATION-TIME><REQ-IF-TOOL-ID>Kindred Baton</REQ-IF-TOOL-ID><REQ-IF-VERSION>1.2</REQ-IF-VERSION><SOURCE-TOOL-ID>Kindred Baton</SOURCE-TOOL-ID><TITLE>${title}</TITLE></REQ-IF-HEADER></THE-HEADER>
  <CORE-CONTENT><REQ-IF-CONTENT>
    <DATATYPES><DATATYPE-DEFINITION-STRING IDENTIFIER="text" LAST-CHANGE="${at}" LONG-NAME="Text" MAX-LENGTH="100000"/></DATATYPES>
    <SPEC-TYPES>
      <SPEC-OBJECT-TYPE IDENTIFIER="requirement" LAST-CHANGE="${at}" LONG-NAME="Requirement"><SPEC-ATTRIBUTES>
${toLines(definitions)}
      </SPEC-ATTRIBUTES></SPEC-OBJECT-TYPE>
      <SPECIFICATION-TYPE IDENTIFIER="list" LAST-CHANGE="${at}" LONG-NAME="List"/>
    </SPEC-TYPES>
    <SPEC-OBJECTS>
${toLines(objects)}
    </SPEC-OBJECTS>
    <SPECIFICATIONS>
      <SPECIFICATION IDENTIFIER="requirements" LAST-CHANGE="${at}" LONG-NAME="${title}"><TYPE><SPECIFICATION-TYPE-REF>list</SPECIFICATION-TYPE-REF></TYPE><CHILDREN>
${toLines(children)}
      </CHILDREN></SPECIFICATION>
    </SPECIFICATIONS>
  </REQ-IF-CONTENT></CORE-CONTENT>
</REQ-IF>
`.write();
}

function writeObject(requirement: StoredRequirement, index: number, at: string): Markup {
  const values = REQIF_ATTRIBUTES.map(({ field }, place) => {
    const value = requirement[field];
    const text = typeof value === 'string' ? value : value.join(' ');
    return markup`<ATTRIBUTE-VALUE-STRING THE-VALUE="${text}"><DEFINITION><ATTRIBUTE-DEFINITION-STRING-REF>attribute-${place}</ATTRIBUTE-DEFINITION-STRING-REF></DEFINITION></ATTRIBUTE-VALUE-STRING>`;
  });
  return markup`      <SPEC-OBJECT IDENTIFIER="requirement-${index}" LAST-CHANGE="${at}"><TYPE><SPEC-OBJECT-TYPE-REF>requirement</SPEC-OBJECT-TYPE-REF></TYPE><VALUES>${values}</VALUES></SPEC-OBJECT>`;
}
