import type { ShopKind } from '../world';

export const esc = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** JSON that can stand in a script. */
export const inScript = (value: unknown): string => JSON.stringify(value).replace(/</g, '\\u003c');

type Dressed = Pick<ShopKind, 'name' | 'look'>;

const style = ({ ground, ink, bar, face }: ShopKind['look']): string => `
*{box-sizing:border-box}body{margin:0;font:16px/1.55 ${face};background:${ground};color:${ink}}
header{background:${bar};color:#fff;padding:14px 32px;display:flex;gap:24px;align-items:baseline;flex-wrap:wrap}header a{color:inherit;text-decoration:none}header b{font-size:22px;letter-spacing:.4px}header nav{margin-left:auto;display:flex;gap:18px}
main{max-width:1100px;margin:28px auto;padding:0 24px}.item{display:grid;grid-template-columns:minmax(0,1.15fr) minmax(0,1fr);gap:40px}
.stage{background:#fff;border:1px solid #0002;padding:8px}.stage img{width:100%;display:block}.strip{display:flex;gap:8px;flex-wrap:wrap;margin-top:10px}.strip img{width:72px;height:72px;object-fit:cover;border:2px solid transparent;background:#fff;cursor:pointer}.strip img[aria-current=true]{border-color:${bar}}
h1{font-size:27px;line-height:1.25;margin:0 0 6px}.price{font-size:26px;margin:14px 0}label{display:block;margin:12px 0 4px;font-size:14px}select,button,input,textarea{font:inherit;padding:8px 11px;border:1px solid #0006;background:#fff;color:#222;width:100%}
button{background:${bar};color:#fff;border:0;margin-top:14px;cursor:pointer}button.plain{background:#fff;color:#222;border:1px solid #0006}.quiet{opacity:.78;font-size:14px}.tag{display:inline-block;border:1px solid #0003;padding:1px 9px;margin:0 6px 6px 0;font-size:13px;background:#fff;color:#222}
.grid{display:grid;grid-template-columns:repeat(auto-fill,minmax(220px,1fr));gap:22px}.grid a{color:inherit;text-decoration:none;background:#fff;color:#222;border:1px solid #0002;display:block;padding:8px}.grid img{width:100%;aspect-ratio:1;object-fit:cover}
.note{background:#fff6da;color:#222;border:1px solid #e2c873;padding:8px 12px;margin-bottom:18px}.problem{background:#fde8e4;color:#222;border:1px solid #b5452f;padding:8px 12px;margin-bottom:14px}
.consent{max-width:520px;background:#fff;color:#222;border:1px solid #0002;padding:28px;margin:60px auto}table{border-collapse:collapse;width:100%;background:#fff;color:#222}td,th{border:1px solid #0002;padding:5px 8px;text-align:left;font-size:14px}td input,td select{padding:4px 6px}td button,.row button{width:auto;margin:0;padding:5px 10px}.row{display:flex;gap:10px;flex-wrap:wrap;margin:14px 0}`;

/** A page of a shop. */
export const frame = ({ name, look }: Dressed, title: string, body: string): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${esc(title)} · ${esc(name)}</title><style>${style(look)}</style></head><body><header><a href="/"><b>${esc(name)}</b></a><span>${esc(look.strap)}</span><nav><a href="/basket">Basket</a><a href="/desk">For sellers</a></nav></header><main>${body}</main></body></html>`;

export const notFoundPage = (kind: Dressed): string =>
  frame(
    kind,
    'Nothing here',
    `<h1>Nothing here</h1><p>This page does not exist, or its ${esc(kind.look.article)} is not open to buyers.</p>`,
  );

export const problemList = (problems: readonly string[]): string =>
  problems.length === 0
    ? ''
    : `<div class="problem" role="alert">${problems.map((problem) => `<p>${esc(problem)}</p>`).join('')}</div>`;
