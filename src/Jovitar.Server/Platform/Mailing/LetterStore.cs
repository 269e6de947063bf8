using Npgsql;

namespace Jovitar.Server.Platform.Mailing;

/// <summary>What comes with a letter.</summary>
/// <param name="Name">Of its file.</param>
/// <param name="Pdf">Its bytes.</param>
internal sealed record LetterPaper(string Name, byte[] Pdf);

/// <summary>A letter that is to be handed to the mail server.</summary>
internal sealed record DueLetter(Guid Id, string ToName, string ToAddress, string Subject, string Body, LetterPaper? Paper, DateTimeOffset Made, int Tries);

/// <summary>Letters that wait in the database, so that one is neither lost nor sent by two processes. Once it has left, what it said is forgotten.</summary>
internal sealed class LetterStore(NpgsqlDataSource db, TimeProvider clock)
{
    /// <summary>One who has taken a letter has so long to hand it over; then it is anybody's again.</summary>
    static readonly TimeSpan Claim = TimeSpan.FromMinutes(2);

    /// <summary>How long it is known that a letter was sent.</summary>
    static readonly TimeSpan Kept = TimeSpan.FromDays(30);

    /// <summary>Pauses between tries; the last is repeated for as long as the letter holds.</summary>
    static readonly TimeSpan[] Pauses = [TimeSpan.FromSeconds(5), TimeSpan.FromSeconds(30), TimeSpan.FromMinutes(2), TimeSpan.FromMinutes(10), TimeSpan.FromMinutes(30)];

    /// <summary>Puts a letter in the queue; it leaves once the transaction is done.</summary>
    /// <param name="until">When what it says no longer holds.</param>
    /// <param name="paper">What comes with it; null for nothing.</param>
    public async Task<Guid> PutAsync(Transaction tx, string toName, string toAddress, string subject, string body, DateTimeOffset until, CancellationToken ct, LetterPaper? paper = null)
    {
        var now = clock.GetUtcNow();
        var id = Guid.CreateVersion7(now);
        await tx.RunAsync(
            """
            insert into letter (id, to_name, to_address, subject, body, paper, paper_name, made, due, until)
            values (@id, @name, @address, @subject, @body, @paper::bytea, @paper_name, @now, @now, @until)
            """,
            ct, ("id", id), ("name", toName), ("address", toAddress), ("subject", subject), ("body", body), ("paper", paper?.Pdf), ("paper_name", paper?.Name ?? ""), ("now", now), ("until", until));
        await tx.RunAsync("delete from letter where made < @old and due is null", ct, ("old", now - Kept));
        return id;
    }

    /// <summary>Gives up what waited too long: it says nothing any more that holds.</summary>
    public async Task GiveUpLateAsync(CancellationToken ct)
    {
        await using var command = db.Command(
            "update letter set due = null, body = null, paper = null, fault = 'It could not be sent in time.' where due <= @now and until <= @now", ("now", clock.GetUtcNow()));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Takes a letter that is due; null when none is.</summary>
    public async Task<DueLetter?> TakeAsync(CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var command = db.Command(
            """
            update letter as l
               set due = @again, tries = l.tries + 1
             where l.id = (select id from letter where due <= @now order by due limit 1 for update skip locked)
            returning l.id, l.to_name, l.to_address, l.subject, l.body, l.paper, l.paper_name, l.made, l.tries
            """,
            ("now", now), ("again", now + Claim));
        return await command.FirstAsync(
            r => new DueLetter(
                r.Get<Guid>("id"), r.Get<string>("to_name"), r.Get<string>("to_address"), r.Get<string>("subject"), r.Get<string>("body"), r.IsDBNull(r.GetOrdinal("paper")) ? null : new LetterPaper(r.Get<string>("paper_name"), r.Get<byte[]>("paper")),
                r.Get<DateTimeOffset>("made"), r.Get<int>("tries")),
            ct);
    }

    public async Task SentAsync(Guid letter, CancellationToken ct)
    {
        await using var command = db.Command("update letter set sent = @now, due = null, body = null, paper = null, fault = '' where id = @letter", ("letter", letter), ("now", clock.GetUtcNow()));
        await command.ExecuteNonQueryAsync(ct);
    }

    /// <summary>It could not be handed over.</summary>
    /// <param name="fault">A sentence for people.</param>
    /// <param name="forGood">Trying again would come to the same.</param>
    public async Task FailedAsync(DueLetter letter, string fault, bool forGood, CancellationToken ct)
    {
        var again = clock.GetUtcNow() + Pauses[Math.Min(letter.Tries, Pauses.Length) - 1];
        await using var command = db.Command(
            """
            update letter
               set fault = @fault,
                   due = case when @given_up or until <= @again then null else @again end,
                   body = case when @given_up or until <= @again then null else body end,
                   paper = case when @given_up or until <= @again then null else paper end
             where id = @letter
            """,
            ("letter", letter.Id), ("fault", fault), ("given_up", forGood), ("again", again));
        await command.ExecuteNonQueryAsync(ct);
    }
}
