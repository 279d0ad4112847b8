import { sendAct } from '@/server/http/send-act';
import { stopSend } from '@/server/sends/sends';

/** Sends no more of it; what was sent stays. */
export const POST = sendAct(stopSend);
