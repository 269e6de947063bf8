using System.ComponentModel.DataAnnotations;
using System.Collections;
using System.Globalization;
using Jovitar.Core;

namespace Jovitar.Server.Platform;

/// <summary>A text of at most so many characters; where it is required, something of it must be left without blanks.</summary>
[AttributeUsage(AttributeTargets.Parameter | AttributeTargets.Property)]
public sealed class WordsAttribute(int most) : ValidationAttribute
{
    public int Most => most;

    protected override ValidationResult? IsValid(object? value, ValidationContext validationContext) =>
        value is not string text ? ValidationResult.Success
        : text.Length > most ? new ValidationResult(string.Create(CultureInfo.InvariantCulture, $"This may have {most:#,0} characters."))
        : !Text.IsSound(text) ? new ValidationResult("This text has characters in it that cannot be kept.")
        : ValidationResult.Success;
}

/// <summary>An address for letters, as people have them: a name, an @ and a host, with nothing in them that mail takes for a sign (RFC 5322 §3.4.1, without its quoted forms).</summary>
[AttributeUsage(AttributeTargets.Parameter | AttributeTargets.Property)]
public sealed class MailAddressAttribute : ValidationAttribute
{
    protected override ValidationResult? IsValid(object? value, ValidationContext validationContext) =>
        value is not string text || Core.People.MailAddress.IsOne(text.Trim()) ? ValidationResult.Success : new ValidationResult("This is not an e-mail address.");
}

/// <summary>A list of at most so many things, none of them missing.</summary>
[AttributeUsage(AttributeTargets.Parameter | AttributeTargets.Property)]
public sealed class AtMostAttribute(int most) : ValidationAttribute
{
    public int Most => most;

    protected override ValidationResult? IsValid(object? value, ValidationContext validationContext) =>
        value is not ICollection list ? ValidationResult.Success
        : list.Count > most ? new ValidationResult(string.Create(CultureInfo.InvariantCulture, $"At most {most:#,0} at once."))
        : list.Cast<object?>().Any(e => e is null) ? new ValidationResult("Something in this list is missing.")
        : ValidationResult.Success;
}

/// <summary>One of a few words.</summary>
[AttributeUsage(AttributeTargets.Parameter | AttributeTargets.Property)]
public sealed class OneOfAttribute(params string[] words) : ValidationAttribute
{
    protected override ValidationResult? IsValid(object? value, ValidationContext validationContext) =>
        value is string text && !words.Contains(text) ? new ValidationResult($"This is one of {string.Join(", ", words.Select(w => w.Length == 0 ? "nothing" : $"“{w}”"))}.") : ValidationResult.Success;
}

/// <summary>Refuses addresses that no address can be: a NUL or broken UTF-8 in path or query.</summary>
internal static class SoundAddresses
{
    public static void UseSoundAddresses(this IApplicationBuilder app) => app.Use((http, next) =>
        Text.IsSound(http.Request.Path.Value ?? "") && http.Request.Query.All(q => Text.IsSound(q.Key) && q.Value.All(v => v is null || Text.IsSound(v)))
            ? next(http)
            : Problems.Json(StatusCodes.Status400BadRequest, "invalid", "This address has characters in it that cannot be.").ExecuteAsync(http));
}
