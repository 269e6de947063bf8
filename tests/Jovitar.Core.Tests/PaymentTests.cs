using CsCheck;
using Jovitar.Core.Acts;
using Jovitar.Core.Sales;
using Jovitar.Core.Sales.Ordering;
using Jovitar.Core.Sales.Payments;

namespace Jovitar.Core.Tests;

public sealed class PaymentTests
{
    static readonly Currency Euro = Currency.Find("EUR")!;
    static readonly PaymentId Id = new(Guid.CreateVersion7());

    static Money Eur(long cents) => new(cents, Euro);

    static PaymentNotice Paid(long cents) => new(Id, PaymentNews.Paid, Eur(cents));

    static PaymentNotice Back(long cents) => new(Id, PaymentNews.Refunded, Eur(cents));

    static readonly PaymentNotice Ended = new(Id, PaymentNews.Ended, null);

    static PaymentStanding After(params PaymentNotice[] notices) => notices.Aggregate(PaymentStanding.Open(Eur(3900)), (standing, notice) => standing.After(notice));

    [Fact]
    public void What_was_asked_and_came_is_paid()
    {
        var paid = After(Paid(3900));
        Assert.Equal((PaymentState.Paid, Eur(3900), 0L), (paid.State, paid.Came!.Value, paid.Returned));
    }

    [Theory]
    [InlineData(3899)]
    [InlineData(3901)]
    [InlineData(1)]
    public void Another_amount_is_not_paid_and_can_go_back(long cents)
    {
        var wrong = After(Paid(cents));
        Assert.Equal((PaymentState.Wrong, Eur(cents)), (wrong.State, wrong.Refundable(0)!.Value));
    }

    [Fact]
    public void The_same_number_in_another_currency_is_not_what_was_asked() =>
        Assert.Equal(PaymentState.Wrong, PaymentStanding.Open(Eur(3900)).After(new PaymentNotice(Id, PaymentNews.Paid, new Money(3900, Currency.Find("USD")!))).State);

    [Fact]
    public void What_says_no_amount_pays_nothing() => Assert.Equal(PaymentState.Open, After(new PaymentNotice(Id, PaymentNews.Paid, null)).State);

    [Fact]
    public void An_end_is_none_once_money_has_come_and_money_that_comes_late_has_come()
    {
        Assert.Equal(PaymentState.Ended, After(Ended).State);
        Assert.Equal(PaymentState.Paid, After(Paid(3900), Ended).State);
        Assert.Equal(PaymentState.Paid, After(Ended, Paid(3900)).State);
    }

    /// <summary>What went back is told as all of it until then, so only the most counts.</summary>
    [Fact]
    public void What_went_back_only_grows()
    {
        Assert.Equal(1500, After(Paid(3900), Back(1500), Back(1000)).Returned);
        Assert.Equal(0, After(Paid(3900), new PaymentNotice(Id, PaymentNews.Refunded, new Money(100, Currency.Find("USD")!))).Returned);
        Assert.Equal(Eur(2400), After(Paid(3900), Back(1500)).Refundable(0));
        Assert.Equal(Eur(400), After(Paid(3900), Back(1500)).Refundable(3500));
        Assert.Null(After(Paid(3900), Back(3900)).Refundable(0));
        Assert.Null(After().Refundable(0));
    }

    /// <summary>Services tell the same late, twice and in any order: the end is the same.</summary>
    [Fact]
    public void In_whatever_order_and_however_often_notices_come_it_ends_the_same()
    {
        PaymentNotice[] told = [Paid(3900), Ended, Back(500), Back(1200)];
        var end = After(told);
        Gen.Int[0, told.Length - 1].List[0, 12].Sample(extra =>
        {
            var all = told.Concat(extra.Select(i => told[i])).ToArray();
            Random.Shared.Shuffle(all);
            Assert.Equal(end, After(all));
        });
    }

    [Theory]
    [InlineData(0, Refunded.Nothing)]
    [InlineData(1, Refunded.InPart)]
    [InlineData(3899, Refunded.InPart)]
    [InlineData(3900, Refunded.All)]
    [InlineData(5000, Refunded.All)]
    public void How_much_went_back_is_told(long returned, Refunded expected) => Assert.Equal(expected, Refunds.Of(3900, returned));

    [Theory]
    [InlineData("12.50", 1250)]
    [InlineData("12,5", 1250)]
    [InlineData(" 39 ", 3900)]
    [InlineData("0", null)]
    [InlineData("-1", null)]
    [InlineData("39.01", null)]
    [InlineData("12.505", null)]
    [InlineData("all of it", null)]
    [InlineData("", null)]
    public void Only_what_is_there_goes_back(string typed, int? cents)
    {
        var (amount, wrong) = Refunds.Read(typed, Eur(3900));
        Assert.Equal((cents, cents is null), ((int?)amount?.Minor, wrong is not null));
    }

    [Fact]
    public void Of_nothing_nothing_goes_back() => Assert.Equal("Nothing can be refunded of this order.", Refunds.Read("1", null).Wrong);

    [Fact]
    public void It_goes_back_the_way_it_came_and_never_more_than_is_left()
    {
        static PaymentToRefund One(PaymentStanding standing, long asked = 0) => new(new PaymentId(Guid.CreateVersion7()), standing, asked);
        // By hand, where nothing came by a service.
        Assert.Equal((null, (Money?)Eur(2400)), (Refunds.Of(Eur(3900), isPaid: true, 1500, []).By, Refunds.Of(Eur(3900), isPaid: true, 1500, []).Most));
        Assert.Null(Refunds.Of(Eur(3900), isPaid: true, 3900, []).Most);
        Assert.Null(Refunds.Of(Eur(3900), isPaid: false, 0, [One(After(Ended))]).Most);
        // Of two that came, by the one of which more is left; what is on its way is neither left nor back.
        var (first, second) = (One(After(Paid(3900), Back(1000)), 3000), One(After(Paid(3900)), 500));
        var both = Refunds.Of(Eur(3900), isPaid: true, 1000, [first, second]);
        Assert.Equal((second.Id, (Money?)Eur(3400)), (both.By!.Value, both.Most));
        Assert.Equal([Eur(2000), Eur(500)], both.OnItsWay);
        // What came in another currency goes back in that.
        var dollars = One(PaymentStanding.Open(Eur(3900)).After(new PaymentNotice(Id, PaymentNews.Paid, new Money(3900, Currency.Find("USD")!))));
        Assert.Equal("USD 39.00", Refunds.Of(Eur(3900), isPaid: false, 0, [dollars]).Most!.Value.Said);
    }

    [Fact]
    public void Of_payments_those_that_came_are_told_and_else_the_last_one()
    {
        var (placed, paid) = (new OrderStanding(OrderState.Placed, IsPaid: false, Delivery.Post), new OrderStanding(OrderState.Placed, IsPaid: true, Delivery.Post));
        Assert.Equal(["A payment online was begun and not made"], OrderWords.Payments([After(Ended), After(Ended)], placed));
        Assert.Equal(["A payment online was begun"], OrderWords.Payments([After(Ended), After()], placed));
        Assert.Equal(["EUR 39.00 paid online", "EUR 39.00 paid online"], OrderWords.Payments([After(Ended), After(Paid(3900)), After(Paid(3900)), After()], paid));
        Assert.Empty(OrderWords.Payments([After(Ended)], paid));
    }

    const string Body = "{\"key\":\"a\"}";

    /// <summary>Against what OpenSSL makes of the same: <c>printf '1764504000.{"key":"a"}' | openssl dgst -sha256 -hmac "a secret"</c>.</summary>
    [Fact]
    public void A_notice_is_signed_as_others_sign() => Assert.Equal("ca2f21cf019bb373a89f4022affb0400d3af02c39932828b2d507e6629ca5466", NoticeSignature.Of("a secret", 1764504000, Body));

    [Theory]
    [InlineData(0, Signature.Good)]
    [InlineData(300, Signature.Good)]
    [InlineData(-300, Signature.Good)]
    [InlineData(301, Signature.Old)]
    [InlineData(-301, Signature.Old)]
    public void A_signature_is_good_for_five_minutes(int later, Signature expected) => Assert.Equal(
        expected, NoticeSignature.Check("a secret", "1764504000", NoticeSignature.Of("a secret", 1764504000, Body), Body, DateTimeOffset.FromUnixTimeSeconds(1764504000 + later)));

    [Theory]
    [InlineData("another secret", "1764504000", Body)]
    [InlineData("a secret", "1764504001", Body)]
    [InlineData("a secret", "1764504000", "{\"key\":\"b\"}")]
    [InlineData("a secret", "", Body)]
    [InlineData("a secret", "-1", Body)]
    [InlineData("a secret", "99999999999999999", Body)]
    [InlineData("a secret", "9223372036854775807", Body)]
    public void What_was_signed_otherwise_is_forged(string secret, string seconds, string body) => Assert.Equal(
        Signature.Forged, NoticeSignature.Check(secret, seconds, NoticeSignature.Of("a secret", 1764504000, Body), body, DateTimeOffset.FromUnixTimeSeconds(1764504000)));

    [Fact]
    public void A_signature_that_is_none_is_forged()
    {
        foreach (var none in (string[])["", "00", new string('0', 64), "ü"])
        {
            Assert.Equal(Signature.Forged, NoticeSignature.Check("a secret", "1764504000", none, Body, DateTimeOffset.FromUnixTimeSeconds(1764504000)));
        }
    }

    [Fact]
    public void Sellers_are_told_of_money_that_does_not_go_with_its_order()
    {
        var placed = new OrderStanding(OrderState.Placed, IsPaid: false, Delivery.Post);
        Assert.Null(OrderWords.ToLookAt(placed, After(Paid(3900)), Eur(3900)));
        Assert.Equal("EUR 3.00 came, and EUR 39.00 was asked. The order does not count as paid.", OrderWords.ToLookAt(placed, After(Paid(300)), Eur(300)));
        Assert.Equal("EUR 39.00 came for an order that is cancelled. Refund it, unless you send it after all.", OrderWords.ToLookAt(placed with { State = OrderState.Cancelled }, After(Paid(3900)), Eur(3900)));
        Assert.Equal("EUR 39.00 came for an order that was paid already. Refund what is too much.", OrderWords.ToLookAt(placed with { IsPaid = true }, After(Paid(3900)), Eur(3900)));
    }

    [Theory]
    [InlineData(OrderState.Placed, true, Refunded.InPart, "Paid, refunded in part")]
    [InlineData(OrderState.Sent, true, Refunded.All, "Sent, refunded")]
    [InlineData(OrderState.Cancelled, true, Refunded.All, "Cancelled and refunded")]
    [InlineData(OrderState.Cancelled, true, Refunded.InPart, "Cancelled, refunded in part")]
    [InlineData(OrderState.Cancelled, false, Refunded.Nothing, "Cancelled")]
    public void Where_an_order_stands_says_what_went_back(OrderState state, bool paid, Refunded refunded, string says) => Assert.Equal(says, OrderWords.Standing(new OrderStanding(state, paid, Delivery.Post, refunded)));

    [Theory]
    [InlineData(OrderState.Placed, false, true)]
    [InlineData(OrderState.Sent, false, true)]
    [InlineData(OrderState.Placed, true, false)]
    [InlineData(OrderState.Cancelled, false, false)]
    public void An_order_is_paid_late_too_but_not_twice_and_not_once_cancelled(OrderState state, bool paid, bool can) => Assert.Equal(can, new OrderStanding(state, paid, Delivery.Post).CanBePaid);
}
