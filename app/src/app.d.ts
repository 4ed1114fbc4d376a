declare module '*?worker' {
  const WorkerClass: new () => Worker;
  export default WorkerClass;
}

/** Icons that operations name, by name; made by `operation-icons.ts`. */
declare module 'virtual:operation-icons' {
  import type { Component } from 'svelte';
  export const icons: Record<string, Component>;
}
