import { EditorContent, NodeViewWrapper, ReactNodeViewRenderer, useEditor, useEditorState, type Editor, type ReactNodeViewProps } from '@tiptap/react';
import { createContext, useContext, useEffect, useImperativeHandle, useRef, useState, type FormEvent, type ReactNode, type Ref } from 'react';
import type { RichBlock, RichText } from '@/parts/richText';
import { toDocument, toText } from './document';
import { Embedded, textExtensions } from './extensions';

/** What can be asked of an editor from beside it. */
export interface EditorHandle {
  /** Puts a thing into the text, where the person writes; at the end when they do not. */
  insert: (block: RichBlock) => void;
}

interface Props {
  label: string;
  value: RichText;
  placeholder: string;
  className: string;
  /** How a thing that stands in the text is shown. */
  embedded: (block: RichBlock) => ReactNode;
  onChange: (text: RichText) => void;
  onBlur: () => void;
  handle: Ref<EditorHandle>;
}

const Shown = createContext<Props['embedded']>(() => null);

function EmbeddedView({ node, selected, deleteNode }: ReactNodeViewProps) {
  const show = useContext(Shown);
  const { as, thing, id, caption } = node.attrs as { as: string; thing: string; id: number; caption: string };
  return (
    <NodeViewWrapper
      contentEditable={false}
      className={`group relative my-3 rounded-[2px] pr-[72px] ${selected ? 'outline-2 outline-offset-2 outline-verdigris' : ''}`}
    >
      {show({ type: as, thing, id, caption })}
      <button
        type="button"
        tabIndex={-1}
        aria-label="Take it out of the text"
        onClick={deleteNode}
        className="absolute top-0 right-0 min-h-6 px-1.5 text-[12px] text-ink-soft opacity-0 group-hover:opacity-100 hover:text-oxblood"
      >
        take out
      </button>
    </NodeViewWrapper>
  );
}

const extensions = textExtensions(Embedded.extend({ addNodeView: () => ReactNodeViewRenderer(EmbeddedView) }));

/** A text in blocks as it is written: the page as it will be read, with a line of words over it for its form. */
export function RichTextEditor({ label, value, placeholder, className, embedded, onChange, onBlur, handle }: Props) {
  const changed = useRef(onChange);
  useEffect(() => void (changed.current = onChange));
  const editor = useEditor({
    extensions,
    content: toDocument(value),
    // Styles come with the application; the page takes no others.
    injectCSS: false,
    editorProps: {
      attributes: { role: 'textbox', 'aria-multiline': 'true', 'aria-label': label, class: `rich-text ${className}` },
      handleKeyDown: (view, event) => {
        if (event.key !== 'Escape') return false;
        view.dom.blur();
        return true;
      },
    },
    onUpdate: (of) => changed.current(toText(of.editor.getJSON())),
    onBlur,
  });
  const now = JSON.stringify(value);
  useEffect(() => {
    // Written by somebody else, or taken back: what one is writing oneself stands there already.
    if (JSON.stringify(toText(editor.getJSON())) === now) return;
    const { from, to } = editor.state.selection;
    editor.commands.setContent(toDocument(JSON.parse(now) as RichText), { emitUpdate: false });
    const end = editor.state.doc.content.size;
    editor.commands.setTextSelection({ from: Math.min(from, end), to: Math.min(to, end) });
  }, [editor, now]);
  useImperativeHandle(handle, () => ({
    insert: (block) => {
      const [node] = toDocument({ version: 1, blocks: [block] }).content!;
      const at =
        editor.isFocused || !editor.state.selection.empty || editor.state.selection.from > 1 ? editor.state.selection.to : editor.state.doc.content.size;
      const { $to } = editor.state.selection;
      // After the block in which the person writes, not in the middle of a sentence.
      const place = at === editor.state.doc.content.size || $to.depth === 0 ? at : $to.after(1);
      // At the end there is a line to go on in.
      const last = place === editor.state.doc.content.size ? [{ type: 'paragraph' }] : [];
      editor
        .chain()
        .insertContentAt(place, [node!, ...last])
        .run();
    },
  }));
  return (
    <Shown.Provider value={embedded}>
      <FormLine editor={editor} />
      <div className="relative">
        <EditorContent editor={editor} />
        {editor.isEmpty && <p className="pointer-events-none absolute top-1 left-0 font-read text-[16.5px] leading-[1.6] text-ink-soft">{placeholder}</p>}
      </div>
    </Shown.Provider>
  );
}

/** The form of what is selected, in words that are the controls. */
function FormLine({ editor }: { editor: Editor }) {
  const on = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      strong: e.isActive('bold'),
      emphasis: e.isActive('italic'),
      heading: e.isActive('heading'),
      list: e.isActive('bulletList'),
      numbered: e.isActive('orderedList'),
      link: e.isActive('link'),
    }),
  });
  const chain = () => editor.chain().focus();
  const [address, setAddress] = useState<string | null>(null);
  const link = () => (on.link ? void chain().unsetLink().run() : setAddress(''));
  const takeAddress = (event: FormEvent) => {
    event.preventDefault();
    if (address)
      chain()
        .setLink({ href: /^(https?:|mailto:)/i.test(address) ? address : `https://${address}` })
        .run();
    setAddress(null);
  };
  const acts: [string, boolean, string, () => void][] = [
    ['strong', on.strong, 'Ctrl B', () => chain().toggleBold().run()],
    ['emphasis', on.emphasis, 'Ctrl I', () => chain().toggleItalic().run()],
    ['heading', on.heading, 'Ctrl Alt 2', () => chain().toggleHeading({ level: 2 }).run()],
    ['list', on.list, 'Ctrl Shift 8', () => chain().toggleBulletList().run()],
    ['numbers', on.numbered, 'Ctrl Shift 7', () => chain().toggleOrderedList().run()],
    ['link', on.link, 'An address for the selected words', link],
    ['line across', false, 'A line between two parts', () => chain().setHorizontalRule().run()],
  ];
  return (
    <div role="toolbar" aria-label="Form of the text" className="mb-1 flex flex-wrap gap-x-3 text-[12.5px]">
      {acts.map(([name, active, title, act]) => (
        <button
          key={name}
          type="button"
          title={title}
          aria-pressed={active}
          // The selection in the text stays.
          onMouseDown={(e) => e.preventDefault()}
          onClick={act}
          className={`min-h-6 hover:text-verdigris ${active ? 'font-semibold text-verdigris' : 'text-ink-soft'}`}
        >
          {name}
        </button>
      ))}
      {address !== null && (
        <form onSubmit={takeAddress} className="flex items-center gap-1.5">
          <input
            autoFocus
            aria-label="Where the selected words lead to"
            placeholder="https://"
            value={address}
            onChange={(e) => setAddress(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Escape') setAddress(null);
            }}
            className="h-6 w-64 rounded-std border border-line bg-case px-2"
          />
          <button type="submit" className="min-h-6 text-sky hover:underline">
            Set it
          </button>
        </form>
      )}
    </div>
  );
}
