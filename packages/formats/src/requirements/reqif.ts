/**
 * ReqIF 1.2 (OMG formal/2016-07-01), as much of it as a list of requirements needs: one object type with string attributes,
 * and one specification that lists the objects.
 */
export const REQIF_NAMESPACE = 'http://www.omg.org/spec/ReqIF/20110401/reqif.xsd';

/** Our attributes, by the names that other programs commonly know (ReqIF implementation guide, ProSTEP iViP, from memory). */
export const REQIF_ATTRIBUTES = [
  { field: 'code', name: 'ReqIF.ForeignID' },
  { field: 'title', name: 'ReqIF.Name' },
  { field: 'description', name: 'ReqIF.Text' },
  { field: 'kind', name: 'Kind' },
  { field: 'priority', name: 'Priority' },
  { field: 'nodes', name: 'Processes' },
  { field: 'tests', name: 'Tests' },
] as const;
