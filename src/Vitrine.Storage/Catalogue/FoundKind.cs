namespace Vitrine.Storage.Catalogue;

/// <summary>What can be found by words. The numbers stand in the index and never change.</summary>
public enum FoundKind
{
    Study = 1,
    Source = 2,
    Tag = 3,
    Theme = 4,
    Insight = 5,
    Exhibit = 6,
    Observation = 7,

    /// <summary>Words in a source's text.</summary>
    Text = 8,
    MarginNote = 9,
}
