import { attachment } from './attachment';
import { BYTE_ORDER_MARK } from '@/core/csv/safe';

/** CSV as a download. With `?bom=true` it begins with a byte order mark, for spreadsheets that take UTF-8 for something older without it. */
export function csvResponse(
  text: string | ReadableStream<Uint8Array>,
  fileName: string,
  query: URLSearchParams,
): Response {
  const marked = query.get('bom') === 'true';
  const body = typeof text === 'string' ? (marked ? BYTE_ORDER_MARK : '') + text : marked ? withMark(text) : text;
  return new Response(body, {
    headers: {
      'content-type': 'text/csv; charset=utf-8; header=present',
      'content-disposition': attachment(fileName),
      'cache-control': 'no-store',
    },
  });
}

function withMark(stream: ReadableStream<Uint8Array>): ReadableStream<Uint8Array> {
  const mark = new TextEncoder().encode(BYTE_ORDER_MARK);
  return stream.pipeThrough(
    new TransformStream<Uint8Array, Uint8Array>({ start: (controller) => controller.enqueue(mark) }),
  );
}
