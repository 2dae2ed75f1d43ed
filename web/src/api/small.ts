/** Small things that the browser keeps; where it keeps nothing, they last as long as the page. */
const keeping = (storage: () => Storage) => {
  const here = new Map<string, string>();
  return {
    get: (key: string): string | null => {
      try {
        return here.get(key) ?? storage().getItem(key);
      } catch {
        return here.get(key) ?? null;
      }
    },
    set: (key: string, value: string): void => {
      try {
        storage().setItem(key, value);
        here.delete(key);
      } catch {
        here.set(key, value);
      }
    },
    remove: (key: string): void => {
      here.delete(key);
      try {
        storage().removeItem(key);
      } catch {
        // it is kept nowhere else
      }
    },
  };
};

/** For this device. */
export const small = keeping(() => localStorage);
/** For this tab. */
export const smallOfTab = keeping(() => sessionStorage);
