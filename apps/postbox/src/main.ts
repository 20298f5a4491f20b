/** Started by npm start, as a process of its own. */
import { openPostbox } from './open-postbox.ts';

const { SMTP_PORT = '0', PAGE_PORT = '0' } = process.env;
const postbox = await openPostbox({ smtpPort: Number(SMTP_PORT), pagePort: Number(PAGE_PORT) });
process.send?.({ smtpPort: postbox.smtpPort, pagePort: postbox.pagePort });
const close = () => void postbox.close().then(() => process.exit(0));
process.on('SIGTERM', close);
process.on('SIGINT', close);
process.on('disconnect', close);
