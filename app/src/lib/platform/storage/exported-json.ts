/** What a file of JSON holds. @param what is exported as such, for the sentence @throws Error where it is none */
export function exportedJson(text: string, what: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Error(`This file is no JSON: a ${what} is exported as JSON.`);
  }
}
