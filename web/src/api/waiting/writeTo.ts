import type { paths } from '../schema';
import type { NewWaiting, Waiting } from './waiting';

type Method = Lowercase<Waiting['method']>;
type Asked<P extends keyof paths, M extends Method> = paths[P][M];
type With<M extends Method> = { [P in keyof paths]: Asked<P, M> extends { responses: unknown } ? P : never }[keyof paths];
type Ids<O> = O extends { parameters: { path: infer I } } ? I : Record<never, never>;
type Body<O> = O extends { requestBody: { content: { 'application/json': infer B } } } ? B : null;

/** Operations that write one text over another: those whose body holds the text that stands there. */
type Texts = { [P in With<'put'>]: Body<Asked<P, 'put'>> extends { text: unknown; was: unknown } ? P : never }[With<'put'>];

/** The address of a text that saves itself. */
export type TextAddress = string & { readonly isOfText: never };

const filled = (path: string, ids: Readonly<Record<string, unknown>>) => path.replace(/\{(\w+)\}/g, (_, name: string) => String(ids[name]));

/** A write for later, to an operation of the API, with the ids and the body that it takes. */
export const writeTo = <M extends Method, P extends With<M>, Shown>(
  method: M,
  path: P,
  ids: Ids<Asked<P, M>>,
  body: Body<Asked<P, M>>,
  more: Pick<NewWaiting<Shown>, 'what' | 'makes' | 'shown'>,
): NewWaiting<Shown> => ({ method: method.toUpperCase() as Uppercase<M>, path: filled(path, ids as Record<string, unknown>), body, ...more });

/** Where one text is saved. */
export const textAt = <P extends Texts>(path: P, ids: Ids<Asked<P, 'put'>>): TextAddress => filled(path, ids as Record<string, unknown>) as TextAddress;
