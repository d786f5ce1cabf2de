/** A script that is being written survives a reload, in this browser. */

export function remembered(name: string, otherwise: string): string {
  return window.localStorage.getItem(name) ?? otherwise;
}

export function remember(name: string, text: string, asItWas: string): void {
  if (text === asItWas) forget(name);
  else window.localStorage.setItem(name, text);
}

export function forget(name: string): void {
  window.localStorage.removeItem(name);
}
