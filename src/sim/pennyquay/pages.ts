import type { Item, Shop } from './ledger';

const esc = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

const frame = (
  title: string,
  body: string,
) => `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${esc(title)} · Pennyquay</title><style>
*{box-sizing:border-box}body{margin:0;font:16px/1.55 Georgia,'Times New Roman',serif;background:#eef3f1;color:#1d2b2a}
header{background:#1f4c47;color:#f3f7f2;padding:14px 32px;display:flex;gap:24px;align-items:baseline}header a{color:inherit;text-decoration:none}header b{font-size:22px;letter-spacing:.5px}
main{max-width:1100px;margin:28px auto;padding:0 24px}.item{display:grid;grid-template-columns:minmax(0,1.15fr) minmax(0,1fr);gap:40px}
.stage{background:#fff;border:1px solid #c9d6d1;padding:8px}.stage img{width:100%;display:block}.strip{display:flex;gap:8px;flex-wrap:wrap;margin-top:10px}.strip img{width:72px;height:72px;object-fit:cover;border:2px solid transparent;background:#fff;cursor:pointer}.strip img[aria-current=true]{border-color:#1f4c47}
h1{font-size:27px;line-height:1.25;margin:0 0 6px}.price{font-size:26px;margin:14px 0}label{display:block;margin:12px 0 4px;font-size:14px}select,button,input{font:inherit;padding:9px 12px;border:1px solid #8aa39c;background:#fff;width:100%}
button{background:#1f4c47;color:#fff;border:0;margin-top:18px;cursor:pointer}.quiet{color:#566966;font-size:14px}.tag{display:inline-block;border:1px solid #c9d6d1;padding:1px 9px;margin:0 6px 6px 0;font-size:13px;background:#fff}
.grid{display:grid;grid-template-columns:repeat(auto-fill,minmax(220px,1fr));gap:22px}.grid a{color:inherit;text-decoration:none;background:#fff;border:1px solid #c9d6d1;display:block;padding:8px}.grid img{width:100%;aspect-ratio:1;object-fit:cover}
.note{background:#fff6da;border:1px solid #e2c873;padding:8px 12px;margin-bottom:18px}.consent{max-width:520px;background:#fff;border:1px solid #c9d6d1;padding:28px;margin:60px auto}.consent button+button{background:#fff;color:#1d2b2a;border:1px solid #8aa39c;margin-top:8px}
</style></head><body><header><a href="/"><b>Pennyquay</b></a><span>made by hand, sold at the harbor</span></header><main>${body}</main></body></html>`;

export const notFoundPage = () =>
  frame('Nothing here', '<h1>Nothing here</h1><p>This page does not exist, or its item is not open to buyers.</p>');

export function homePage(shops: Shop[]): string {
  return frame(
    'Shops',
    `<h1>Shops</h1>${shops.map((shop) => `<p><a href="/shops/${shop.slug}">${esc(shop.name)}</a></p>`).join('')}`,
  );
}

export function shopPage(shop: Shop, items: Item[]): string {
  const cards = items.map((item) => {
    const prices = item.offers.map((offer) => Number(offer.price));
    return `<a href="/items/${item.id}">${item.pictures[0] ? `<img src="/pictures/${item.pictures[0].id}" alt="${esc(item.pictures[0].caption)}">` : ''}<div>${esc(item.headline)}</div><b>${prices.length ? `from ${Math.min(...prices).toFixed(2)} ${shop.currency}` : ''}</b></a>`;
  });
  return frame(
    shop.name,
    `<h1>${esc(shop.name)}</h1>${items.length ? `<div class="grid">${cards.join('')}</div>` : '<p class="quiet">This shop has nothing on its shelves yet.</p>'}`,
  );
}

export function itemPage(item: Item, shop: Shop): string {
  const profile = shop.deliveryProfiles.find((p) => p.id === item.deliveryProfile);
  const us = profile?.lanes.find((lane) => lane.countries.includes('US'));
  const maker = shop.makers.find((m) => m.id === item.maker);
  const data = JSON.stringify(
    item.offers.map(({ picks, price, before, available, picture }) => ({
      picks,
      price,
      before: before ?? null,
      available,
      picture,
    })),
  ).replace(/</g, '\\u003c');
  return frame(
    item.headline,
    `${item.stage === 'draft' ? '<p class="note">A draft: only the shop’s owner sees this page.</p>' : ''}<div class="item"><div><div class="stage">${item.pictures[0] ? `<img id="big" src="/pictures/${item.pictures[0].id}" alt="${esc(item.pictures[0].caption)}">` : '<p class="quiet">No picture yet.</p>'}</div>
<div class="strip">${item.pictures.map((p, i) => `<img src="/pictures/${p.id}" data-id="${p.id}" alt="${esc(p.caption)}" aria-current="${i === 0}">`).join('')}</div></div>
<div><h1 id="headline">${esc(item.headline)}</h1><a class="quiet" href="/shops/${shop.slug}">${esc(shop.name)}</a><div class="price"><span id="price">${item.offers[0]?.price ?? ''}</span> ${shop.currency} <s id="before" class="quiet">${item.offers[0]?.before ?? ''}</s></div>
<div>${item.choices.map((choice, i) => `<label for="c${i}">${esc(choice.name)}</label><select id="c${i}" name="c${i}">${choice.values.map((v) => `<option>${esc(v)}</option>`).join('')}</select>`).join('')}
<p id="stock" class="quiet"></p></div>
<p class="quiet">${us ? `Delivery to the United States ${us.first === '0.00' ? 'is free' : `${us.first} ${shop.currency}, each further item ${us.further}`}.` : ''} ${maker ? `Made with ${esc(maker.name)} (${esc(maker.country)}).` : ''}</p>
<p id="story">${esc(item.story).replace(/\n/g, '<br>')}</p><p>${item.keywords.map((k) => `<span class="tag">${esc(k)}</span>`).join('')}</p></div></div>
<script>const offers=${data};const selects=[...document.querySelectorAll('select')];const show=()=>{const picks=selects.map(s=>s.value);const o=offers.find(o=>o.picks.every((p,i)=>p===picks[i]));document.getElementById('price').textContent=o?o.price:'–';document.getElementById('before').textContent=o&&o.before?o.before:'';document.getElementById('stock').textContent=o?(o.available?'Ready to be made for you.':'Sold out just now.'):'Not made in this combination.';if(o&&o.picture)pick(o.picture)};
const pick=id=>{const big=document.getElementById('big');if(!big)return;big.src='/pictures/'+id;document.querySelectorAll('.strip img').forEach(i=>i.setAttribute('aria-current',i.dataset.id===id))};
selects.forEach(s=>s.addEventListener('change',show));document.querySelectorAll('.strip img').forEach(i=>i.addEventListener('click',()=>pick(i.dataset.id)));show();</script>`,
  );
}

export function consentPage(shop: Shop, ask: Record<string, string>): string {
  const hidden = Object.entries(ask)
    .map(([name, value]) => `<input type="hidden" name="${esc(name)}" value="${esc(value)}">`)
    .join('');
  const scopes = (ask.scope ?? '').split(' ').filter(Boolean);
  const words: Record<string, string> = {
    'items:write': 'add, change and open items',
    'items:read': 'read your items',
    'shop:read': 'read your shop’s name and settings',
    'makers:write': 'declare making partners',
  };
  return frame(
    'Allow access',
    `<form class="consent" method="post" action="/consent">${hidden}<h1>Let ${esc(ask.client_id ?? '')} work in ${esc(shop.name)}?</h1><p>It asks to:</p><ul>${scopes.map((s) => `<li>${esc(words[s] ?? s)}</li>`).join('')}</ul><button name="answer" value="allow">Allow</button><button name="answer" value="deny">Do not allow</button></form>`,
  );
}

export const problemPage = (says: string) => frame('Not possible', `<h1>Not possible</h1><p>${esc(says)}</p>`);
