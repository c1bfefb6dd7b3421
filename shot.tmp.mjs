import { chromium } from '@playwright/test';
const [, , url, out, act] = process.argv;
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--disable-quic'] });
const p = await b.newPage({ viewport: { width: 1280, height: 800 } });
p.on('console', (m) => m.type() === 'error' && console.log('console', m.text()));
await p.goto(url); await p.waitForLoadState('networkidle');
if (act) await (0, eval)(`(async (page) => { ${act} })`)(p);
await p.waitForTimeout(400); await p.screenshot({ path: out }); 
console.log(await p.locator('*').count(), 'nodes'); await b.close();
