namespace Vitrine.Core.RichTexts;

/// <summary>The parts of a text, one by one.</summary>
internal static class RichTextParts
{
    public static IEnumerable<RichBlock> AllBlocks(RichText text) => text.Blocks.SelectMany(WithThoseInside);

    public static IReadOnlyList<Inline> InlinesOf(RichBlock block) =>
        block switch
        {
            Paragraph p => p.Content,
            Heading h => h.Content,
            _ => [],
        };

    public static IEnumerable<ThingRef> ReferencesOf(RichBlock block) =>
        block is Embedded embedded ? [embedded.Thing] : InlinesOf(block).OfType<Mention>().Select(m => m.Thing);

    public static RichText EachInline(RichText text, Func<Inline, Inline> change) =>
        new([.. text.Blocks.Select(b => Each(b, x => x, change))]);

    public static RichText EachReference(RichText text, Func<ThingRef, ThingRef> change) =>
        new([
            .. text.Blocks.Select(b =>
                Each(
                    b,
                    x => x is Embedded e ? e with { Thing = change(e.Thing) } : x,
                    i => i is Mention m ? m with { Thing = change(m.Thing) } : i
                )
            ),
        ]);

    public static RichText OnlyKnown(RichText text) =>
        new(Kept(text.Blocks, b => b is not UnknownBlock, content => content.Where(i => i is not UnknownInline)));

    public static RichText WithoutReferences(RichText text) =>
        new(
            Kept(
                text.Blocks,
                b => b is not Embedded,
                content => content.Where(i => i is not Mention { Title: "" }).Select(i => i is Mention m ? new TextRun(m.Title) : i)
            )
        );

    private static IReadOnlyList<RichBlock> Kept(
        IReadOnlyList<RichBlock> blocks,
        Func<RichBlock, bool> stays,
        Func<IReadOnlyList<Inline>, IEnumerable<Inline>> inlines
    ) =>
        [
            .. blocks
                .Where(stays)
                .Select(b =>
                    b switch
                    {
                        Paragraph p => p with { Content = [.. inlines(p.Content)] },
                        Heading h => h with { Content = [.. inlines(h.Content)] },
                        TextList l => l with { Items = [.. l.Items.Select(i => Kept(i, stays, inlines)).Where(i => i.Count > 0)] },
                        _ => b,
                    }
                ),
        ];

    private static IEnumerable<RichBlock> WithThoseInside(RichBlock block) =>
        block is TextList list ? list.Items.SelectMany(i => i).SelectMany(WithThoseInside).Prepend(block) : [block];

    private static RichBlock Each(RichBlock block, Func<RichBlock, RichBlock> change, Func<Inline, Inline> inline) =>
        change(block) switch
        {
            Paragraph p => p with { Content = [.. p.Content.Select(inline)] },
            Heading h => h with { Content = [.. h.Content.Select(inline)] },
            TextList l => l with
            {
                Items = [.. l.Items.Select(i => (IReadOnlyList<RichBlock>)[.. i.Select(b => Each(b, change, inline))])],
            },
            var other => other,
        };
}
