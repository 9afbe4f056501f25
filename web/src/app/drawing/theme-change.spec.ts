import { onThemeChange } from './theme-change';

describe('a change of theme', () => {
  it('is heard where it was chosen, and where the device goes over to dark, until nobody listens', async () => {
    const device = new EventTarget();
    spyOn(window, 'matchMedia').and.returnValue(device as MediaQueryList);
    const root = document.documentElement;
    const before = root.dataset['theme'];
    let heard = 0;
    const end = onThemeChange(() => heard++);
    device.dispatchEvent(new Event('change'));
    expect(heard).toBe(1);
    root.dataset['theme'] = 'dark';
    await new Promise((soon) => setTimeout(soon));
    expect(heard).toBe(2);
    end();
    if (before === undefined) delete root.dataset['theme'];
    else root.dataset['theme'] = before;
    device.dispatchEvent(new Event('change'));
    await new Promise((soon) => setTimeout(soon));
    expect(heard).toBe(2);
  });
});
