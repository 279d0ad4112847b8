import { amount, minorOf, type Article, type Variant } from '../goods';
import type { ShopKind, World } from '../world';
import { esc, frame, problemList } from './frame';

export function listPage<Own, Extra>(world: World<Own, Extra>, kind: ShopKind<Own, Extra>): string {
  const sections = world.accounts.all().map((account) => {
    const rows = world.articles
      .all()
      .filter((article) => article.account === account.id)
      .map(
        ({ id, title, stage, variants }) =>
          `<tr><td><a href="/desk/${id}">${esc(title || id)}</a></td><td>${stage === 'live' ? 'on sale' : esc(kind.look.draft)}</td><td>${variants.length} variants</td></tr>`,
      );
    return `<h2>${esc(account.name)}</h2><table>${rows.join('')}</table><form method="post" action="/desk/new" class="row"><input type="hidden" name="account" value="${esc(account.id)}"><button>Add a ${esc(kind.look.article)}</button></form>`;
  });
  const links = (kind.deskLinks ?? []).map(([href, words]) => `<a href="${href}">${esc(words)}</a>`).join(' · ');
  return frame(kind, 'For sellers', `<h1>Your ${esc(kind.look.article)}s</h1><p>${links}</p>${sections.join('')}`);
}

const field = (name: string, label: string, value: string, rows = 0): string =>
  `<label for="${name}">${esc(label)}</label>${rows > 0 ? `<textarea id="${name}" name="${name}" rows="${rows}">${esc(value)}</textarea>` : `<input id="${name}" name="${name}" value="${esc(value)}">`}`;

const cell = (name: string, label: string, value: string): string =>
  `<td><input name="${name}" aria-label="${esc(label)}" value="${esc(value)}"></td>`;

function variantRow(article: Article<unknown>, variant: Variant | null, i: number): string {
  const picks = article.options.map((option, o) =>
    cell(`pick-${i}-${o}`, `${option.name} of variant ${i + 1}`, variant?.picks[o] ?? ''),
  );
  return `<tr>${cell(`sku-${i}`, `SKU of variant ${i + 1}`, variant?.sku ?? '')}${picks.join('')}${cell(`price-${i}`, `Price of variant ${i + 1}`, variant ? amount(variant.priceMinor) : '')}${cell(`stock-${i}`, `Stock of variant ${i + 1}`, variant?.stock == null ? '' : String(variant.stock))}<td><label><input type="checkbox" style="width:auto" name="drop-${i}"> remove</label></td></tr>`;
}

/** The page on which a seller changes one listing: everything in one form, pictures with their own buttons. */
export function editPage<Own, Extra>(
  article: Article<Extra>,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
  problems: readonly string[],
): string {
  const { look } = kind;
  const categories = kind.categories?.(world.accounts.get(article.account)!) ?? [];
  const category = look.category
    ? `<label for="category">${esc(look.category)}</label><select id="category" name="category"><option value="">–</option>${categories.map(({ id, name }) => `<option value="${esc(id)}"${id === article.category ? ' selected' : ''}>${esc(name)}</option>`).join('')}</select>`
    : '';
  const options = article.options.map(({ name }, o) => field(`option-${o}`, `Option ${o + 1}`, name)).join('');
  const head = `<tr><th>SKU</th>${article.options.map(({ name }) => `<th>${esc(name)}</th>`).join('')}<th>Price</th><th>Stock (empty: made to order)</th><th></th></tr>`;
  const pictures = article.pictures
    .map(
      ({ id, caption }, i) =>
        `<tr><td><img src="/pictures/${id}" alt="" width="80"></td>${cell(`caption-${i}`, `Caption of picture ${i + 1}`, caption)}${cell(`place-${i}`, `Place of picture ${i + 1}`, String(i + 1))}<td><label><input type="checkbox" style="width:auto" name="dropPicture-${i}"> remove</label></td><td><input type="file" aria-label="Replace picture ${i + 1}" data-instead="${id}"></td></tr>`,
    )
    .join('');
  const act = (name: string, label: string) =>
    `<form method="post" action="/desk/${article.id}/${name}"><button class="plain">${label}</button></form>`;
  return frame(
    kind,
    article.title,
    `${problemList(problems)}<p class="quiet"><a href="/desk">All</a> · <a href="${look.articlePath}${article.id}">As buyers see it</a> · ${article.stage === 'live' ? 'on sale' : esc(look.draft)}</p>
<div class="row">${article.stage === 'live' ? act('draft', 'Take off sale') : act('live', 'Put on sale')}${act('copy', 'Copy')}${act('delete', 'Delete')}</div>
<form method="post" action="/desk/${article.id}">${field('title', 'Title', article.title)}${field('text', 'Description', article.text, 6)}${look.tags ? field('tags', `${look.tags}, one a line`, article.tags.join('\n'), 4) : ''}${category}${options}
<h2>Variants</h2><table>${head}${[...article.variants, null].map((variant, i) => variantRow(article, variant, i)).join('')}</table>
<h2>Pictures</h2><table>${pictures}</table><label>Add a picture <input type="file" id="add" data-instead=""></label><button id="save">Save</button></form>
<script>document.querySelectorAll('input[type=file]').forEach(f=>f.addEventListener('change',async()=>{const a=await fetch('/desk/${article.id}/pictures?instead='+f.dataset.instead,{method:'POST',body:f.files[0]});if(a.ok)location.reload();else alert(await a.text())}))</script>`,
  );
}

/** A listing as the form has it, with what cannot be read in it. Everything that was typed stays. */
export function draftOf<Extra>(
  article: Article<Extra>,
  form: Readonly<Record<string, string>>,
): { draft: Article<Extra>; problems: string[] } {
  const problems: string[] = [];
  const variants = [...article.variants, null].flatMap((old, i): Variant[] => {
    const sku = (form[`sku-${i}`] ?? '').trim();
    if (sku === '' || form[`drop-${i}`] !== undefined) return [];
    const priceMinor = minorOf((form[`price-${i}`] ?? '').trim());
    if (priceMinor === null) problems.push(`The price of ${sku} is to be written as 12.50.`);
    const stock = (form[`stock-${i}`] ?? '').trim();
    if (!/^\d{0,6}$/.test(stock)) problems.push(`The stock of ${sku} is a whole number, or empty.`);
    const picks = article.options.map((_, o) => (form[`pick-${i}-${o}`] ?? '').trim());
    // A new one weighs what the others do.
    const grams = article.variants[0]?.grams ?? null;
    const plain = { beforeMinor: null, picture: null, gtin: null, grams, priceMinor: 0 };
    const base = old ?? plain;
    return [
      {
        ...base,
        sku,
        picks,
        priceMinor: priceMinor ?? base.priceMinor,
        stock: stock === '' || !/^\d+$/.test(stock) ? null : Number(stock),
      },
    ];
  });
  const options = article.options.map(({ name, values }, o) => ({
    name: (form[`option-${o}`] ?? name).trim(),
    // Values that a variant was given here are new ones; those that no variant has any more go.
    values: [...new Set([...values, ...variants.map(({ picks }) => picks[o] ?? '')])].filter((value) =>
      variants.some(({ picks }) => picks[o] === value),
    ),
  }));
  const pictures = article.pictures
    .map((picture, i) => ({ ...picture, caption: form[`caption-${i}`] ?? picture.caption, i }))
    .filter(({ i }) => form[`dropPicture-${i}`] === undefined)
    .sort((a, b) => Number(form[`place-${a.i}`]) - Number(form[`place-${b.i}`]))
    .map(({ id, caption }) => ({ id, caption }));
  const left = new Set(pictures.map(({ id }) => id));
  const draft: Article<Extra> = {
    ...article,
    title: (form.title ?? article.title).trim(),
    text: (form.text ?? article.text).replace(/\r\n/g, '\n').trim(),
    tags:
      form.tags === undefined
        ? article.tags
        : form.tags
            .split(/\r?\n/)
            .map((tag) => tag.trim())
            .filter(Boolean),
    category: form.category === undefined ? article.category : form.category || null,
    options,
    variants: variants.map((one) => ({ ...one, picture: one.picture && left.has(one.picture) ? one.picture : null })),
    pictures,
  };
  return { draft, problems };
}
