using Jovitar.Core.Acts;
using Jovitar.Core.People;

namespace Jovitar.Core.Tests;

/// <summary>Lists of members as people have them: copied from letters, tables and files.</summary>
public sealed class MemberRulesTests
{
    [Theory]
    [InlineData("Ada Teal, ada@example.org", "Ada Teal", "ada@example.org")]
    [InlineData("Ada Teal <ada@example.org>", "Ada Teal", "ada@example.org")]
    [InlineData("\"Teal, Ada\" <ada@example.org>", "Teal Ada", "ada@example.org")]
    [InlineData("Ada\tTeal\tada@example.org\tclass 3", "Ada Teal class 3", "ada@example.org")]
    [InlineData("ada@example.org;Ada Teal", "Ada Teal", "ada@example.org")]
    [InlineData("Ada Teal ada@example.org", "Ada Teal", "ada@example.org")]
    [InlineData("  ada@example.org  ", "", "ada@example.org")]
    [InlineData("Zoë Ådal, zoë@exämple.org", "Zoë Ådal", "zoë@exämple.org")]
    public void A_line_is_read_whichever_program_it_was_copied_from(string line, string name, string email)
    {
        var (members, refused) = MemberRules.Read(line);
        Assert.Empty(refused);
        Assert.Equal(new NewMember(name, email), Assert.Single(members));
    }

    [Fact]
    public void The_heads_of_a_table_are_passed_over_and_nobody_comes_twice()
    {
        var (members, refused) = MemberRules.Read("name,e-mail\r\nAda,ADA@example.org\r\n\r\nAda again,ada@Example.org\nBo,bo@example.org\n");
        Assert.Empty(refused);
        Assert.Equal(["ADA@example.org", "bo@example.org"], members.Select(m => m.Email));
    }

    [Theory]
    [InlineData("Ada, ada@", "mistyped")]
    [InlineData("Ada, ada@ex@ample.org", "mistyped")]
    [InlineData("Ada Teal", "no e-mail address")]
    public void A_line_without_an_address_says_so_and_keeps_none_of_the_others_out(string line, string why)
    {
        var (members, refused) = MemberRules.Read($"Bo, bo@example.org\n{line}\nCy, cy@example.org");
        Assert.Equal(["Bo", "Cy"], members.Select(m => m.Name));
        Assert.Equal(2, Assert.Single(refused).Line);
        Assert.Contains(why, refused[0].Why, StringComparison.Ordinal);
    }

    [Fact]
    public void A_list_is_bounded_and_somebody_without_a_name_is_called_by_the_address()
    {
        Assert.NotNull(MemberRules.Fault(" \n"));
        Assert.NotNull(MemberRules.Fault(string.Concat(Enumerable.Repeat("a@b.c\n", MemberRules.MostLines))));
        Assert.Null(MemberRules.Fault("a@b.c"));
        Assert.Equal("ada", MemberRules.Called(new NewMember("", "ada@example.org")));
    }

    [Fact]
    public void What_somebody_was_called_before_is_read_in_the_history()
    {
        Assert.Equal("Wren", MemberWords.CalledBefore(MemberWords.Renamed("Wren", "Wren Marsh"), "Wren Marsh"));
        Assert.Null(MemberWords.CalledBefore(MemberWords.Renamed("Wren", "Wren Marsh"), "Marsh"));
        Assert.Null(MemberWords.CalledBefore(MemberWords.Removed("Wren"), "Wren"));
        Assert.Null(MemberWords.CalledBefore("The member  is called Wren now.", "Wren"));
    }
}
