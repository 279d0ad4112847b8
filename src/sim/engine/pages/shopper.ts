import { page, type Answer, type Exchange } from '../exchange';
import { amount, type Account, type Article } from '../goods';
import type { ShopKind, World } from '../world';
import { serveBasket } from './basket';
import { esc, frame, inScript } from './frame';

/** The pages that buyers see; null for another address. */
export async function serveShopper<Own, Extra>(
  exchange: Exchange,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
): Promise<Answer | null> {
  const path = exchange.url.pathname;
  const picture = /^\/pictures\/([a-z0-9-]+)$/.exec(path);
  if (picture) return pictureFile(world, picture[1]!);
  if (path === '/favicon.ico') return { status: 204 };
  if (path === '/') return page(homePage(world, kind));
  const inBasket = await serveBasket(exchange, world, kind);
  if (inBasket) return inBasket;
  const { articlePath, shopPath } = kind.look;
  const account = world.accounts.all().find(({ slug }) => path === `${shopPath}${slug}`);
  if (account) return page(shopPage(world, kind, account));
  const article = path.startsWith(articlePath) ? world.articles.get(path.slice(articlePath.length)) : undefined;
  return article ? page(articlePage(article, world, kind)) : null;
}

function pictureFile<Own, Extra>(world: World<Own, Extra>, id: string): Answer {
  const [bytes, about] = [world.records.readFile(id), world.pictures.get(id)];
  return bytes && about
    ? { status: 200, body: bytes, type: about.type, headers: { 'cache-control': 'max-age=3600' } }
    : { status: 404 };
}

const homePage = <Own, Extra>(world: World<Own, Extra>, kind: ShopKind<Own, Extra>): string =>
  frame(
    kind,
    'Shops',
    `<h1>Shops</h1>${world.accounts
      .all()
      .map(({ slug, name }) => `<p><a href="${kind.look.shopPath}${slug}">${esc(name)}</a></p>`)
      .join('')}`,
  );

function shopPage<Own, Extra>(world: World<Own, Extra>, kind: ShopKind<Own, Extra>, account: Account<Own>): string {
  const live = world.articles.all().filter((one) => one.account === account.id && one.stage === 'live');
  const cards = live.map((article) => {
    const prices = article.variants.map(({ priceMinor }) => priceMinor);
    const [first] = article.pictures;
    return `<a href="${kind.look.articlePath}${article.id}">${first ? `<img src="/pictures/${first.id}" alt="${esc(first.caption)}">` : ''}<div>${esc(article.title)}</div><b>${prices.length > 0 ? `from ${amount(Math.min(...prices))} ${account.currency}` : ''}</b></a>`;
  });
  return frame(
    kind,
    account.name,
    `<h1>${esc(account.name)}</h1>${cards.length > 0 ? `<div class="grid">${cards.join('')}</div>` : '<p class="quiet">This shop has nothing on its shelves yet.</p>'}`,
  );
}

function articlePage<Own, Extra>(
  article: Article<Extra>,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
): string {
  const account = world.accounts.get(article.account)!;
  const [first] = article.pictures;
  const offers = article.variants.map(({ sku, picks, priceMinor, beforeMinor, stock, picture }) => ({
    sku,
    picks,
    price: amount(priceMinor),
    before: beforeMinor === null ? null : amount(beforeMinor),
    available: stock !== 0,
    picture,
  }));
  const strip = article.pictures
    .map(
      ({ id, caption }, i) =>
        `<img src="/pictures/${id}" data-id="${id}" alt="${esc(caption)}" aria-current="${i === 0}">`,
    )
    .join('');
  const choosers = article.options
    .map(
      ({ name, values }, i) =>
        `<label for="c${i}">${esc(name)}</label><select id="c${i}" name="c${i}">${values.map((value) => `<option>${esc(value)}</option>`).join('')}</select>`,
    )
    .join('');
  const notes = (kind.notes?.(article, world) ?? []).map((note) => `<p class="quiet">${esc(note)}</p>`).join('');
  const tags = kind.look.tags ? article.tags.map((tag) => `<span class="tag">${esc(tag)}</span>`).join('') : '';
  return frame(
    kind,
    article.title,
    `${article.stage === 'draft' ? `<p class="note">${esc(kind.look.draft)}: only the shop’s owner sees this page.</p>` : ''}<div class="item"><div><div class="stage">${first ? `<img id="big" src="/pictures/${first.id}" alt="${esc(first.caption)}">` : '<p class="quiet">No picture yet.</p>'}</div>
<div class="strip">${strip}</div></div>
<div><h1 id="headline">${esc(article.title)}</h1><a class="quiet" href="${kind.look.shopPath}${account.slug}">${esc(account.name)}</a><div class="price"><span id="price">${offers[0]?.price ?? ''}</span> ${account.currency} <s id="before" class="quiet">${offers[0]?.before ?? ''}</s></div>
<form method="post" action="/basket"><input type="hidden" name="article" value="${article.id}"><input type="hidden" id="sku" name="sku" value="${esc(offers[0]?.sku ?? '')}">${choosers}
<p id="stock" class="quiet"></p><label for="quantity">How many</label><input id="quantity" name="quantity" value="1"><button id="buy">Put into the basket</button></form>
${notes}<p id="story">${esc(article.text).replace(/\n/g, '<br>')}</p><p>${tags}</p></div></div>
<script>const offers=${inScript(offers)};const selects=[...document.querySelectorAll('select')];const by=id=>document.getElementById(id);const show=()=>{const picks=selects.map(s=>s.value);const o=offers.find(o=>o.picks.every((p,i)=>p===picks[i]));by('price').textContent=o?o.price:'–';by('before').textContent=o&&o.before?o.before:'';by('stock').textContent=o?(o.available?'Ready to be made for you.':'Sold out just now.'):'Not made in this combination.';by('sku').value=o?o.sku:'';by('buy').disabled=!o||!o.available;if(o&&o.picture)pick(o.picture)};
const pick=id=>{const big=by('big');if(!big)return;big.src='/pictures/'+id;document.querySelectorAll('.strip img').forEach(i=>i.setAttribute('aria-current',i.dataset.id===id))};
selects.forEach(s=>s.addEventListener('change',show));document.querySelectorAll('.strip img').forEach(i=>i.addEventListener('click',()=>pick(i.dataset.id)));show();</script>`,
  );
}
