import { doneSchema, idSchema } from '../common.ts';
import { defineRoutes } from '../route.ts';
import { addAddressSchema, addedAddressSchema, addressesSchema, rowKindSchema, rowsQuerySchema } from './extract.ts';

const own = { right: 'read', topics: ['programme'] } as const;

export const extractRoutes = defineRoutes({
  getRows: {
    ...{ method: 'GET', path: '/extracts/:kind', params: { kind: rowKindSchema }, input: rowsQuerySchema, output: null },
    ...{ right: 'read', for: 'addresses too', topics: [] },
  },
  listAddresses: { method: 'GET', path: '/data-addresses', output: addressesSchema, ...own },
  addAddress: { method: 'POST', path: '/data-addresses', input: addAddressSchema, output: addedAddressSchema, ...own },
  withdrawAddress: {
    ...{ method: 'DELETE', path: '/data-addresses/:address', params: { address: idSchema<'dataAddress'>() }, output: doneSchema },
    ...own,
  },
});
