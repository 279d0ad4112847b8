import { Browser } from './tests/e2e/support/browser';
const origin = 'http://127.0.0.1:4400';
const browser = await Browser.open();
try {
  await browser.signIn(origin, 'demo@brackwater.example', 'ebb-and-flood');
  await browser.text('Range', 'h1');
  for (const [i, step] of process.argv.slice(2).entries()) {
    if (step.startsWith('/')) await browser.go(origin + step);
    else if (step.startsWith('js:')) await browser.driver.executeScript(step.slice(3));
    else if (step.startsWith('wait:')) await browser.text(step.slice(5), '*', false);
    else await browser.picture('/tmp/' + step);
    if (!step.includes('.png')) await new Promise((r) => setTimeout(r, 900));
  }
  for (const m of await browser.consoleErrors()) console.log('console:', m);
} finally { await browser.close(); }
