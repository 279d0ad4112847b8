import { Browser } from './support/browser';
import fs from 'node:fs';
const home = process.env.TYPICA_HOME ?? '/tmp/home1';
const running = JSON.parse(fs.readFileSync(home + '/run/environment.json', 'utf8'));
const origin = running.TYPICA_ORIGIN;
const b = await Browser.open(Number(process.env.W ?? 1280), Number(process.env.H ?? 800));
await b.go(origin + '/sign-in');
await b.driver.executeAsyncScript(
  `const done=arguments[0];fetch('/api/v1/sessions',{method:'POST',headers:{'content-type':'application/json'},body:JSON.stringify({email:'demo@brackwater.example',password:'ebb-and-flood'})}).then(()=>done())`,
);
const title = process.env.PRODUCT;
let base = '';
if (title) {
  const id = await b.driver.executeAsyncScript<string>(
    `const done=arguments[0];fetch('/api/v1/products').then(r=>r.json()).then(j=>done((j.products.find(p=>p.title.includes(${JSON.stringify(title)}))||j.products[0]).id))`,
  );
  base = '/products/' + id;
}
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));
for (const step of process.argv.slice(2)) {
  const [kind, ...rest] = step.split(':');
  const arg = rest.join(':');
  if (kind === 'go') await b.go(origin + base + arg);
  if (kind === 'page') await b.go(origin + arg);
  if (kind === 'click') await b.clickText(arg);
  if (kind === 'css') await (await b.find(arg)).click();
  if (kind === 'wait') await wait(Number(arg));
  if (kind === 'type') {
    const i = arg.indexOf('=');
    const el = await b.find(
      '[aria-label="' +
        arg.slice(0, i) +
        '"], #' +
        (await b.driver.executeScript(
          'const l=[...document.querySelectorAll("label")].find(x=>x.textContent===arguments[0]);return l?l.htmlFor:"none"',
          arg.slice(0, i),
        )),
    );
    await el.click();
    await el.sendKeys(arg.slice(i + 1));
  }
  if (kind === 'key')
    await b.driver
      .actions()
      .sendKeys(arg === 'Enter' ? '\uE007' : arg)
      .perform();
  if (kind === 'js') console.log(await b.driver.executeScript(arg));
  if (kind === 'shot') await b.picture(arg);
  if (kind === 'axe') console.log(await b.faults());
}
const logs = await b.driver.manage().logs().get('browser');
for (const l of logs) if (l.level.name === 'SEVERE') console.log(l.message.slice(0, 300));
await b.close();
