import { sendAct } from '@/server/http/send-act';
import { holdSend } from '@/server/sends/sends';

/** Holds what has not begun; what is being sent is finished. */
export const POST = sendAct((ctx, send) => holdSend(ctx, send, true));
