using Vitrine.Core.Access;

namespace Vitrine.Storage.Trail;

/// <summary>Who acts.</summary>
/// <param name="RequestKey">Made by the browser: a write sent twice under one key is done once and answered twice.</param>
public sealed record Actor(AccountId AccountId, string Name, Role Role, Guid? RequestKey = null, Guid? Batch = null);

/// <summary>What a write did.</summary>
/// <param name="ActionId">The step in the trail, to undo it by; null when nothing changed.</param>
/// <param name="Label">The step in words, in the past tense.</param>
/// <param name="Id">The thing that was made or changed, where there is one.</param>
/// <param name="Changed">What it changed; null when it was done before and is too long to be told again.</param>
public sealed record Step(ActionId? ActionId, string Label, long? Id, Changed? Changed = null);
