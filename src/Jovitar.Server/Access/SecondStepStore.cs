using Jovitar.Core.Access;
using Jovitar.Server.Platform;
using Npgsql;

namespace Jovitar.Server.Access;

/// <summary>The second step of an account.</summary>
/// <param name="Since">When it was put on.</param>
/// <param name="RescueLeft">Codes on paper that were not used.</param>
internal sealed record SecondStep(DateTimeOffset Since, int RescueLeft);

/// <summary>The second step at signing in: what a phone shows, or a code on paper. Each code is taken once, by one statement, whoever else sends it at the same moment.</summary>
internal sealed class SecondStepStore(NpgsqlDataSource db, TimeProvider clock)
{
    /// <summary>The second step of an account; null where none is on.</summary>
    public async Task<SecondStep?> FindAsync(Guid account, CancellationToken ct)
    {
        await using var command = db.Command("select since, cardinality(rescue) as rescue from second_step where account = @account and since is not null", ("account", account));
        return await command.FirstAsync(r => new SecondStep(r.Get<DateTimeOffset>("since"), r.Get<int>("rescue")), ct);
    }

    /// <summary>Begins to set one up, with a new secret.</summary>
    /// <returns>The secret; null where one is on already.</returns>
    public async Task<byte[]?> BeginAsync(Guid account, CancellationToken ct)
    {
        await using var command = db.Command(
            """
            insert into second_step as s (account, secret)
            values (@account, @secret)
            on conflict (account) do update set secret = excluded.secret where s.since is null
            returning secret
            """,
            ("account", account), ("secret", OneTimeCode.NewSecret()));
        return await command.ExecuteScalarAsync(ct) as byte[];
    }

    /// <summary>Puts on what was begun, once the phone shows the right code.</summary>
    /// <returns>The codes on paper, which are shown this once; null where the code is not right, or nothing was begun.</returns>
    public async Task<IReadOnlyList<string>?> PutOnAsync(Guid account, string code, CancellationToken ct)
    {
        var now = clock.GetUtcNow();
        await using var read = db.Command("select secret from second_step where account = @account and since is null", ("account", account));
        if (await read.ExecuteScalarAsync(ct) is not byte[] secret || OneTimeCode.Accepts(secret, code, now, used: 0) is not { } step)
        {
            return null;
        }

        var rescue = RescueCodes.New();
        await using var write = db.Command(
            "update second_step set since = @now, used = @step, rescue = @rescue where account = @account and since is null and secret = @secret",
            ("account", account), ("now", now), ("step", step), ("rescue", rescue.Select(RescueCodes.Hash).ToArray()), ("secret", secret));
        return await write.ExecuteNonQueryAsync(ct) == 1 ? rescue : null;
    }

    /// <summary>Takes a code of an account whose second step is on.</summary>
    /// <returns>False where it is not right or was used.</returns>
    public async Task<bool> TakeAsync(Guid account, string code, CancellationToken ct)
    {
        await using var read = db.Command("select secret, used from second_step where account = @account and since is not null", ("account", account));
        if (await read.FirstAsync(r => Tuple.Create(r.Get<byte[]>("secret"), r.Get<long>("used")), ct) is not var (secret, used))
        {
            return false;
        }

        await using var take = OneTimeCode.Accepts(secret, code, clock.GetUtcNow(), used) is { } step
            ? db.Command("update second_step set used = @step where account = @account and secret = @secret and used < @step", ("account", account), ("secret", secret), ("step", step))
            : db.Command(
                "update second_step set rescue = array_remove(rescue, @hash) where account = @account and secret = @secret and @hash = any(rescue)",
                ("account", account), ("secret", secret), ("hash", RescueCodes.Hash(code)));
        return await take.ExecuteNonQueryAsync(ct) == 1;
    }

    /// <summary>Takes it off.</summary>
    public async Task TakeOffAsync(Guid account, CancellationToken ct)
    {
        await using var command = db.Command("delete from second_step where account = @account", ("account", account));
        await command.ExecuteNonQueryAsync(ct);
    }
}
