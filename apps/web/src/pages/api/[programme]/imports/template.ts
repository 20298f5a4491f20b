import { writeTemplate } from '@kindred-baton/formats/import/write-template';
import { defineRawEndpoint } from '../../../../server/endpoint.ts';

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

export const GET = defineRawEndpoint(async () => {
  const bytes = await writeTemplate();
  return new Response(new Uint8Array(bytes), {
    headers: { 'content-type': XLSX, 'content-disposition': 'attachment; filename="kindred-baton-import.xlsx"' },
  });
});
