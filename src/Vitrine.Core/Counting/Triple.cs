namespace Vitrine.Core.Counting;

/// <summary>
/// What every count in Vitrine is: how many observations, in how many sources, by how many people.
/// <paramref name="Unattributed"/> observations belong to no single participant; they are in <paramref name="Observations"/> and said
/// apart, never dropped.
/// </summary>
public readonly record struct Triple(int Observations, int Sources, int People, int Unattributed);
