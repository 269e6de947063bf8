using System.Text;
using Jovitar.Core.Sales.Payments;
using Jovitar.Server.Access;

namespace Jovitar.Server.Sales.Payments;

/// <summary>Where the payment service says what has become of payments. Who it is it proves by its signature; a site that is closed hears it all the same.</summary>
internal static class NoticeEndpoints
{
    public const string Path = "/payments/notices";

    /// <summary>Characters; a notice is a few thousand.</summary>
    const int Longest = 256 * 1024;

    public static void MapPaymentNotices(this IEndpointRouteBuilder site) => site.MapPost(Path, Hear).AllowAnonymous().WithMetadata(AlwaysOpen.Instance).ExcludeFromDescription();

    /// <returns>Other than 2xx has the service say it again later.</returns>
    static async Task<IResult> Hear(HttpContext http, PaymentDesk desk, PaymentStore payments, TimeProvider clock, CancellationToken ct)
    {
        if (desk.Service is not { } service || await BodyAsync(http.Request, ct) is not { } body)
        {
            return Results.NotFound();
        }

        var read = service.Read(body, http.Request.Headers, clock.GetUtcNow());
        if (read.Signature != Signature.Good)
        {
            return Results.BadRequest();
        }

        foreach (var notice in read.Notices)
        {
            // A payment is written down before its service hears of it: what is not known is another site's, and no reason to be told again.
            await payments.HearAsync(notice, ct);
        }

        return Results.NoContent();
    }

    /// <summary>What was sent, as text; null where it is longer than any notice.</summary>
    static async Task<string?> BodyAsync(HttpRequest request, CancellationToken ct)
    {
        using var reader = new StreamReader(request.Body, new UTF8Encoding(encoderShouldEmitUTF8Identifier: false), detectEncodingFromByteOrderMarks: false);
        var (said, part) = (new StringBuilder(), new char[8192]);
        while (await reader.ReadAsync(part, ct) is > 0 and var read)
        {
            if (said.Append(part, 0, read).Length > Longest)
            {
                return null;
            }
        }

        return said.ToString();
    }
}
