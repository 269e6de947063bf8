using System.Buffers.Binary;
using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Jovitar.Server.Tests;

/// <summary>What a device with a passkey does, written from the standard (WebAuthn level 3) and not from what the server uses; it can be told to do wrong.</summary>
internal sealed class PasskeyDevice : IDisposable
{
    readonly ECDsa key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
    readonly byte[] id = RandomNumberGenerator.GetBytes(32);
    string user = "";

    public string Origin { get; set; } = "http://localhost";

    /// <summary>The site that it thinks it talks to.</summary>
    public string Site { get; set; } = "localhost";

    /// <summary>It asked its owner (the flag UV, §6.1).</summary>
    public bool Asks { get; set; } = true;

    public uint Count { get; set; }

    /// <summary>As it stands in addresses.</summary>
    public string Id => Base64Url.EncodeToString(id);

    /// <summary>Makes a passkey as the options say (§6.3.2, attestation “none” of §8.7).</summary>
    public string Make(string options)
    {
        var asked = JsonDocument.Parse(options).RootElement;
        user = asked.GetProperty("user").GetProperty("id").GetString()!;
        var point = key.ExportParameters(includePrivateParameters: false).Q;
        // COSE_Key (RFC 9052 §7): kty 2, alg -7, crv 1, x, y.
        byte[] cose = [0xA5, 0x01, 0x02, 0x03, 0x26, 0x20, 0x01, 0x21, 0x58, 0x20, .. point.X!, 0x22, 0x58, 0x20, .. point.Y!];
        byte[] data = [.. Head(0x40), .. new byte[16], 0x00, (byte)id.Length, .. id, .. cose];
        // A map in CBOR (RFC 8949): fmt “none”, attStmt {}, authData.
        byte[] attestation = [0xA3, 0x63, .. "fmt"u8, 0x64, .. "none"u8, 0x67, .. "attStmt"u8, 0xA0, 0x68, .. "authData"u8, 0x59, (byte)(data.Length >> 8), (byte)data.Length, .. data];
        return Credential(new { clientDataJSON = Client("webauthn.create", asked), attestationObject = Base64Url.EncodeToString(attestation), transports = (string[])["internal"] });
    }

    /// <summary>Answers a question with the passkey (§6.3.3).</summary>
    public string Answer(string options)
    {
        Count++;
        var client = Client("webauthn.get", JsonDocument.Parse(options).RootElement);
        var data = Head(0);
        var signature = key.SignData([.. data, .. SHA256.HashData(Base64Url.DecodeFromChars(client))], HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence);
        return Credential(new { clientDataJSON = client, authenticatorData = Base64Url.EncodeToString(data), signature = Base64Url.EncodeToString(signature), userHandle = user });
    }

    string Client(string type, JsonElement asked) =>
        Base64Url.EncodeToString(Encoding.UTF8.GetBytes(JsonSerializer.Serialize(new { type, challenge = asked.GetProperty("challenge").GetString(), origin = Origin, crossOrigin = false })));

    byte[] Head(int more)
    {
        var count = new byte[4];
        BinaryPrimitives.WriteUInt32BigEndian(count, Count);
        return [.. SHA256.HashData(Encoding.UTF8.GetBytes(Site)), (byte)(0x01 | (Asks ? 0x04 : 0) | more), .. count];
    }

    string Credential(object response) => JsonSerializer.Serialize(new { id = Id, rawId = Id, type = "public-key", authenticatorAttachment = "platform", clientExtensionResults = new { }, response });

    public void Dispose() => key.Dispose();
}
