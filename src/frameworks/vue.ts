/**
 * The elements in Vue (3): their properties and events are known in templates once this is imported anywhere.
 *
 * @example
 * import "zealous-mantle/jsx/vue"
 * <mantle-fitting .fitting="fitting" .loader="loader" @mantle-finish="({ character }) => keep(character)" />
 *
 * @module zealous-mantle/jsx/vue
 */
import type {} from "vue";
import type { EventsOf, MantleTags, PropertiesOf } from "../elements/jsx.ts";

/** An element as Vue takes it for a component. */
type VueElement<Element> = new () => Element & {
  readonly $props: PropertiesOf<Element> & {
    readonly [Name in keyof EventsOf<Element> & string as `on${Capitalize<Camel<Name>>}`]?: (
      event: EventsOf<Element>[Name],
    ) => unknown;
  };
};

type Camel<Name extends string> = Name extends `${infer First}-${infer Rest}`
  ? `${First}${Capitalize<Camel<Rest>>}`
  : Name;

type VueElements = { readonly [Tag in MantleTags]: VueElement<HTMLElementTagNameMap[Tag]> };

declare module "vue" {
  interface GlobalComponents extends VueElements {}
}
