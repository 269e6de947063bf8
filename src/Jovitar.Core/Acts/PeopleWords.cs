using Jovitar.Core.Access;

namespace Jovitar.Core.Acts;

/// <summary>The sentences that say what was done about who works on the site.</summary>
public static class PeopleWords
{
    public static string Invited(string name, Role role) => $"Invited {name} as {A(role)}.";

    /// <summary>Whoever says it is out once somebody has come.</summary>
    public static string HandsOver(string name) => $"Invited {name} to take the site over.";

    /// <param name="before">Who handed it over, and is out.</param>
    public static string TookOver(string before) => $"Took the site over from {before}.";

    public static string TookBack(string name) => $"Took back the invitation of {name}.";

    public static string Joined(Role role) => $"Took up an invitation as {A(role)}.";

    public static string Made(string name, Role role) => $"Made {name} {A(role)}.";

    public static string TookOut(string name) => $"Took {name} out of the workroom.";

    public static string SignedOut(string name) => $"Signed {name} out everywhere.";

    public static string SecondStepOff(string name) => $"Took off the second step of {name}.";

    static string A(Role role) => role == Role.Owner ? "an owner" : "an editor";
}
