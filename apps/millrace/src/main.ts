/** Started by npm start, as a process of its own. */
import { openMillrace } from './open-millrace.ts';

const millrace = await openMillrace({
  databaseUrl: process.env['MILLRACE_DATABASE_URL'] ?? '',
  port: Number(process.env['PORT'] ?? 0),
  tracesTo: process.env['OTEL_EXPORTER_OTLP_TRACES_ENDPOINT'],
});
process.send?.({ port: millrace.port });
const close = () => void millrace.close().then(() => process.exit(0));
process.on('SIGTERM', close);
process.on('SIGINT', close);
process.on('disconnect', close);
